'use client';
import { useSnackbar } from 'notistack';
import { useCallback } from 'react';
import { callOf, newId, type Id } from '@itchkit/core/document';
import { addImage, replaceImage } from '@itchkit/core/shape';
import { useOpenKit, useRun } from '../../session/context';

const MOST_BYTES = 64 * 2 ** 20;

function chooseFile(): Promise<File | null> {
  return new Promise((resolve) => {
    const input = document.createElement('input');
    input.type = 'file';
    input.accept = 'image/png,image/jpeg,image/webp';
    input.dataset.testid = 'image-file';
    input.style.display = 'none';
    const done = (file: File | null) => {
      input.remove();
      resolve(file);
    };
    input.addEventListener('change', () => done(input.files?.[0] ?? null));
    input.addEventListener('cancel', () => done(null));
    document.body.append(input);
    input.click();
  });
}

/**
 * Takes a picture from a file into the kit, in the place of another one or as a new one; gives its id, or undefined where none came of it.
 */
export function useImageUpload(): (replaced: Id | null) => Promise<Id | undefined> {
  const { session } = useOpenKit();
  const run = useRun();
  const { enqueueSnackbar } = useSnackbar();
  return useCallback(
    async (replaced) => {
      const file = await chooseFile();
      if (!file) return undefined;
      if (file.size > MOST_BYTES) {
        enqueueSnackbar(`“${file.name}” is larger than 64 MiB. Choose a smaller picture.`, { variant: 'error' });
        return undefined;
      }
      const blob = session.blobs.put(new Uint8Array(await file.arrayBuffer()));
      const name = file.name.replace(/\.[^.]+$/, '').slice(0, 200) || 'picture';
      const id = replaced ?? newId();
      const call = replaced === null ? callOf(addImage, { id, name, blob }) : callOf(replaceImage, { image: id, name, blob });
      if (!run(call)) return undefined;
      // A picture is in this page alone until it is saved.
      void session.flush();
      return id;
    },
    [session, run, enqueueSnackbar],
  );
}
