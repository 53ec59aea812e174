import { blobsOf } from '../../document';
import { budget, bytesText } from './budget';

/** Arrays and images that go into the package, before it is zipped. */
export const budgetsPackageBytes = budget({
  id: 'budgets.package-bytes',
  stage: 'ship',
  about: 'Arrays and images that go into the package, before it is zipped',
  unit: 'bytes',
  title: 'Package too large',
  what: 'What goes into the package takes',
  show: bytesText,
  measure: ({ kit, blobs }) => ({ value: [...blobsOf(kit)].reduce((sum, sha) => sum + blobs.get(sha).byteLength, 0) }),
});
