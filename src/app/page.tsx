import { StartPage } from '@/ui/scenes/StartPage';

export default function Page() {
  return <StartPage />;
}
