import { pathTo } from '@under-chalk/core/contract/api';
import { transcriptResultSchema, type TranscriptResult } from '@under-chalk/core/contract/transcript-search';
import * as z from 'zod';
import { send } from './fetch';

/** Where some words are said, in all lessons. @throws AppError */
export const searchTranscripts = async (words: string): Promise<TranscriptResult[]> => {
  const response = await send(`${pathTo('searchTranscripts')}?words=${encodeURIComponent(words)}`, {});
  return z.array(transcriptResultSchema).parse(await response.json());
};
