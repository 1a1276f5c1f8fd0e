import { StartPage } from '@/ui/start/StartPage';

export default function Page() {
  return <StartPage />;
}
