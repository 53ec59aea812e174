import { notFound } from 'next/navigation';
import { BUILT_STAGES } from '../../../../stages/stages';

export default async function StagePage({ params }: { params: Promise<{ stage: string }> }) {
  const { stage } = await params;
  if (!BUILT_STAGES.some((one) => one.id === stage)) notFound();
  return null;
}
