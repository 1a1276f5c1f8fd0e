export { default } from '../(log)/loading';
