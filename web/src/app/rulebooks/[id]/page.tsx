import { Booklet } from '../../../rulebook-pages/Booklet';

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <Booklet id={(await params).id} />;
}
