import { WATCH_HAND_INS } from '@under-chalk/core/contract/watch-hand-ins';
import {
  handInFileSchema,
  handInSchema,
  type HandIn,
  type HandInFile,
} from '@under-chalk/core/hand-in/hand-in';
import * as z from 'zod';
import { send } from '../../../data/fetch';

const pathOf = (name: keyof typeof WATCH_HAND_INS, token: string) =>
  WATCH_HAND_INS[name].path.replace(':token', encodeURIComponent(token));

const posted = async (path: string, body: object): Promise<unknown> =>
  (
    await send(path, {
      ...{ method: 'POST', headers: { 'Content-Type': 'application/json' } },
      body: JSON.stringify(body),
    })
  ).json();

/** What was handed in from this address, or on this device, before; null: nothing. @throws TellableError */
export const fetchHandIn = async (token: string, visitor: string): Promise<HandIn | null> =>
  z
    .object({ handIn: handInSchema.nullable() })
    .parse(await (await send(`${pathOf('ownHandIn', token)}?visitor=${visitor}`, {})).json())
    .handIn;

/** Hands in. @throws TellableError */
export const sendHandIn = async (token: string, body: object): Promise<HandIn> =>
  handInSchema.parse(await posted(pathOf('handIn', token), body));

/** Says that a file is coming. @throws TellableError */
export const announceFile = async (token: string, body: object): Promise<void> => {
  await posted(pathOf('bringHandInFile', token), body);
};

/** All of a file has been sent. @returns what it is @throws TellableError */
export const fileCame = async (
  token: string,
  fileId: string,
  visitor: string,
): Promise<HandInFile> =>
  handInFileSchema.parse(
    await posted(pathOf('handInFileCame', token).replace(':fileId', fileId), { visitor }),
  );
