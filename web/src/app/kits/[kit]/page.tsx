import { redirect } from 'next/navigation';

export default async function KitPage({ params }: { params: Promise<{ kit: string }> }) {
  redirect(`/kits/${(await params).kit}/intake`);
}
