import { callOf, renameKit, setTarget, type Blobs, type Kit } from '@itchkit/core/document';
import { readGltf, settleSource } from '@itchkit/core/intake';
import type { Rulebook } from '@itchkit/core/rulebook';
import { buildFoghornCabinetGlb } from './foghorn-cabinet-glb';
import { Hands } from './hands';
import { buildHillTramHaltGlb } from './hill-tram-halt-glb';

/** The halt as it came: five parts, where a town wants some twenty. */
export async function hillTramHalt(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const { kit } = await readGltf(await buildHillTramHaltGlb(), 'hill-tram-halt.glb', blobs);
  const hands = new Hands(kit, blobs);
  hands.do(callOf(renameKit, { name: 'Hill tram halt' }));
  hands.do(callOf(setTarget, { rulebook: rulebook.id, version: rulebook.version }));
  hands.do(callOf(settleSource, { space: hands.kit.source!.space }));
  return hands.kit;
}

/** The cabinet as it came, in metres, of one piece. */
export async function foghornCabinet(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const { kit } = await readGltf(await buildFoghornCabinetGlb(), 'foghorn-cabinet.glb', blobs);
  const hands = new Hands(kit, blobs);
  hands.do(callOf(renameKit, { name: 'Foghorn cabinet' }));
  hands.do(callOf(setTarget, { rulebook: rulebook.id, version: rulebook.version }));
  hands.do(callOf(settleSource, { space: { ...hands.kit.source!.space, metresPerUnit: 0.01 } }));
  return hands.kit;
}
