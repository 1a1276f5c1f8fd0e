export { default } from '../[step]/loading';
