import { pathTo } from '@under-chalk/core/contract/api';
import { foundPlaceSchema, type FoundPlace } from '@under-chalk/core/contract/words';
import * as z from 'zod';
import { send } from './fetch';

/** Where some words are said, in all lessons. @throws TellableError */
export const findSaid = async (words: string): Promise<FoundPlace[]> => {
  const response = await send(`${pathTo('findSaid')}?words=${encodeURIComponent(words)}`, {});
  return z.array(foundPlaceSchema).parse(await response.json());
};
