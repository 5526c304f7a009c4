import { OpenScene } from '@/ui/shell/OpenScene';

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <OpenScene id={(await params).id} />;
}
