import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { AppError } from '@under-chalk/core/errors/errors';
import { MOST_MATERIAL_BYTES } from '@under-chalk/core/material/material';
import { newId } from '../../capture/new-id';
import { NOT_SENT, sendFile, whyNotSent, type Sending } from '../../capture/sending/send-file';
import { call } from '../../data/client';
import { KEYS } from '../../data/queries';

/** A file on its way in. */
export interface Coming {
  readonly id: string;
  readonly name: string;
  readonly sending: Sending;
  /** A code from the table of errors; null while it is on its way. */
  readonly problem: string | null;
  readonly file: File;
}

/** What was pasted has no name of its own. */
const nameOf = ({ name, type }: File): string =>
  name && name !== 'image.png'
    ? name
    : type.startsWith('image/')
      ? 'Pasted picture'
      : 'Pasted text';

/** Brings files into a lesson as materials, one after another. What fails stays in sight, to be tried again. */
export const useBringMaterials = (lessonId: string) => {
  const client = useQueryClient();
  const [coming, setComing] = useState<readonly Coming[]>([]);
  const change = (id: string, by: Partial<Coming>) =>
    setComing((all) => all.map((one) => (one.id === id ? { ...one, ...by } : one)));
  const forget = (id: string) => setComing((all) => all.filter((one) => one.id !== id));
  const refresh = () => client.invalidateQueries({ queryKey: KEYS.materials(lessonId) });

  /** Whether it has come. */
  const bring = async ({ id, name, file }: Coming): Promise<boolean> => {
    try {
      if (file.size === 0) throw new AppError('file-empty');
      if (file.size > MOST_MATERIAL_BYTES) throw new AppError('material-too-heavy');
      await call('newMaterial', { params: { lessonId }, body: { id, name } });
      await sendFile(file, id, (sending) => change(id, { sending }));
      await call('readMaterial', { params: { materialId: id } });
      await refresh();
      forget(id);
      return true;
    } catch (error) {
      change(id, { problem: whyNotSent(error, 'material-too-heavy') });
      await refresh();
      return false;
    }
  };
  const bringAll = async (files: readonly File[]) => {
    const all = files.map((file): Coming => ({
      ...{ id: newId(), name: nameOf(file), file, sending: NOT_SENT, problem: null },
    }));
    setComing((before) => [...before, ...all]);
    let whole = true;
    for (const one of all) whole = (await bring(one)) && whole;
    return whole;
  };
  return {
    coming,
    /** Never rejects. @returns whether all have come */
    bring: bringAll,
    again: (one: Coming) => {
      forget(one.id);
      void bringAll([one.file]);
    },
    forget,
  };
};
