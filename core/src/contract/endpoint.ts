import * as z from 'zod';
import { idSchema } from '../lesson/take';

/** One call of the API. The server's routes, the app's client and the OpenAPI page are all made from these. */
export interface Endpoint {
  readonly method: 'get' | 'post' | 'delete';
  /** Path with `:name` for its parameters. */
  readonly path: string;
  readonly summary: string;
  readonly params?: z.ZodObject;
  readonly query?: z.ZodObject;
  readonly body?: z.ZodType;
  /** Absent where the answer is a file, whose type is then in `file`. */
  readonly answer?: z.ZodType;
  readonly file?: string;
  /**
   * Who may ask, if not only the teacher: a `student` with the token of a film, which is the parameter `token`; a `person`, who is
   * a student with the key of their own page, the parameter `key`; or `anyone`.
   */
  readonly from?: 'student' | 'person' | 'anyone';
}

/** Says of endpoints what they are, and keeps their own types. */
export const define = <T extends Record<string, Endpoint>>(endpoints: T): T => endpoints;

/** Names somebody without an address of their own, on one link and one device: made when they begin. */
export const visitorSchema = z.string().regex(/^[\w-]{16,40}$/);

/** The answer where there is nothing to say. */
export const ok = z.object({ ok: z.literal(true) });

export const byLesson = z.object({ lessonId: idSchema });
export const byTake = z.object({ takeId: idSchema });
export const byFilm = z.object({ filmId: idSchema });
/** 22 base64url characters: 128 bits. */
const tokenSchema = z.string().regex(/^[A-Za-z0-9_-]{22}$/);
export const byToken = z.object({ token: tokenSchema });
export const byKey = z.object({ key: tokenSchema });
