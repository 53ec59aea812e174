import type { Check, Said } from '../types';

/** Parts that are driven hang in the order of their functions, from the ground up. */
export const hierarchyDrivenOrder: Check = {
  id: 'hierarchy.driven-order',
  family: 'hierarchy',
  stage: 'wiring',
  about: 'Parts that are driven hang in the order of their functions, from the ground up',
  needs: ({ hierarchy }) => (hierarchy?.drivenOrder?.length ? null : 'the order of variables (hierarchy.drivenOrder)'),
  run({ kit, rulebook }) {
    const order = rulebook.hierarchy!.drivenOrder!;
    const places = new Map<string, { place: number; variable: string }>();
    for (const { part, variable } of Object.values(kit.bindings))
      if (order.includes(variable)) places.set(part, { place: order.indexOf(variable), variable });
    return [...places].flatMap(([id, own]): Said[] => {
      for (let up = kit.parts[id].parent; up !== null; up = kit.parts[up].parent) {
        const above = places.get(up);
        if (!above || above.place <= own.place) continue;
        return [
          {
            key: id,
            title: 'Functions hang in the wrong order',
            message: `“${kit.parts[id].name}” follows ${own.variable}, but hangs below “${kit.parts[up].name}”, which follows ${above.variable}.`,
            measured: `${above.variable} carries ${own.variable}`,
            limit: `${own.variable} carries ${above.variable}`,
            parts: [id, up],
            mend: {
              title: `Let “${kit.parts[id].name}” carry “${kit.parts[up].name}”`,
              safe: false,
              call: { operation: 'wiring.lift-level', args: { part: id, above: up } },
              changes: [
                `“${kit.parts[id].name}” hangs where “${kit.parts[up].name}” hung, and carries it`,
                'at rest everything stays where it is; both tables move the same way',
              ],
            },
          },
        ];
      }
      return [];
    });
  },
};
