import { notFound } from 'next/navigation';
import { STAGES } from '@itchkit/core/rulebook';

export default async function StagePage({ params }: { params: Promise<{ stage: string }> }) {
  const { stage } = await params;
  if (!STAGES.some((one) => one === stage)) notFound();
  return null;
}
