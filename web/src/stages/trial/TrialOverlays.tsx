'use client';
import * as THREE from 'three';
import { useEffect, useRef } from 'react';
import { childrenOf } from '@itchkit/core/document';
import type { OverlayProps } from '../../bench/bench-stage';
import { sitterMarks } from '../../bench/sitter-marks';
import { useRulebook } from '../../session/context';
import { RowScene } from '../../trials/emberfold/row-scene';
import { useTrial } from '../../trials/trial-state';
import { intoSpace, makeWalkers, placeWalkers, terrainMarks } from './people-marks';

/** Draws who is about in the trial, the ground that the package was put down on, and night. */
export function TrialOverlays({ view, tokens }: OverlayProps): null {
  const loaded = useTrial((state) => state.loaded);
  const walkers = useTrial((state) => state.walkers);
  const seated = useTrial((state) => state.seated);
  const row = useTrial((state) => state.row);
  const terrain = useTrial((state) => state.terrain);
  const night = useTrial((state) => state.night);
  const tile = useRulebook()?.tileMetres;
  const space = loaded?.manifest.space;
  const root = loaded ? childrenOf(loaded.kit, null)[0]?.id : undefined;

  const people = useRef<THREE.InstancedMesh | null>(null);
  useEffect(() => {
    people.current = space ? makeWalkers(space, tokens) : null;
    view.setOverlay('walkers', people.current, root);
    return () => {
      people.current = null;
      view.setOverlay('walkers', null);
    };
  }, [view, space, root, tokens]);
  useEffect(() => {
    if (!people.current) return;
    placeWalkers(people.current, walkers);
    view.draw();
  }, [view, walkers, space, root, tokens]);

  const labels = row && JSON.stringify(row.map(({ label }) => label));
  const bodies = useRef<RowScene | null>(null);
  useEffect(() => {
    if (!loaded || labels === null) return;
    const made = new RowScene(loaded.kit, loaded.blobs, JSON.parse(labels) as string[], view.standing(), tokens, () => view.draw());
    bodies.current = made;
    view.setOverlay('row', made.object);
    view.setRoom(made.room);
    return () => {
      bodies.current = null;
      view.setOverlay('row', null);
      view.setRoom(null);
      made.dispose();
    };
  }, [view, loaded, labels, tokens]);
  useEffect(() => {
    if (!row || !bodies.current) return;
    bodies.current.place(row);
    view.draw();
  }, [view, row, labels]);

  const sits = seated.join(' ');
  useEffect(() => {
    if (!space || sits === '') return;
    const ids = sits.split(' ');
    for (const id of ids) {
      const turned = new THREE.Group();
      turned.add(sitterMarks('', tokens));
      turned.matrixAutoUpdate = false;
      turned.matrix.copy(intoSpace(space));
      view.setOverlay(`sits ${id}`, turned, id);
    }
    return () => ids.forEach((id) => view.setOverlay(`sits ${id}`, null));
  }, [view, sits, space, tokens]);

  useEffect(() => {
    view.setOverlay('terrain', space && terrain && tile !== undefined ? terrainMarks(terrain, tile, space, tokens) : null, root);
    return () => view.setOverlay('terrain', null);
  }, [view, terrain, tile, space, root, tokens]);

  const glows = loaded?.kit.grounds?.glows;
  useEffect(() => {
    if (!night) return;
    view.setLook({ night, glows: glows ?? [], paints: {} });
    return () => view.setLook(null);
  }, [view, night, glows]);
  return null;
}
