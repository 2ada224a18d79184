import * as z from 'zod';
import { idSchema } from '../lesson/take';
import { cleanLine } from '../text/clean';
import { LANGUAGES, type Language } from '../text/student-languages';
import { timeZoneSchema } from '../time/time-zone';

/** Most classes of a teacher, units of a class, students of a class, and students in all. */
export const MOST_CLASSES = 200;
export const MOST_UNITS = 200;
export const MOST_IN_CLASS = 1_000;
export const MOST_STUDENTS = 20_000;
/** Most lessons of a unit that are put into an order. */
export const MOST_UNIT_LESSONS = 500;

const nameSchema = z.string().overwrite(cleanLine).trim().min(1).max(200);

/** A name as people write it: of a class, a unit, or a student. */
export const personNameSchema = nameSchema;

/** An address for mail; empty text is none. */
export const addressSchema = z
  .string()
  .trim()
  .max(254)
  .transform((text) => (text === '' ? null : text))
  .pipe(z.email().nullable());

/** A week or a subject of a class, in the order in which they come. */
export const unitSchema = z
  .object({
    id: idSchema,
    name: nameSchema,
    /** Its lessons in the order in which their films stand; what isn't among them stands after, as it was put up. */
    lessons: z.array(idSchema).max(MOST_UNIT_LESSONS).readonly().optional(),
  })
  .readonly();
export type Unit = z.infer<typeof unitSchema>;

/** How e-mails to the students of a class are written. */
export const classMailSchema = z
  .object({
    language: z.enum(Object.keys(LANGUAGES) as [Language, ...Language[]]),
    /** For deadlines in them (IANA). */
    timeZone: timeZoneSchema,
  })
  .readonly();
export type ClassMail = z.infer<typeof classMailSchema>;

/** Who is taught together. */
export const classSchema = z
  .object({
    id: idSchema,
    name: nameSchema,
    units: z.array(unitSchema).max(MOST_UNITS).readonly(),
    /** Absent: English, and the time zone of the teacher who sends. */
    mail: classMailSchema.optional(),
  })
  .readonly();
export type Class = z.infer<typeof classSchema>;

/** Who is taught. A student can be in several classes. */
export const studentSchema = z
  .object({ id: idSchema, name: nameSchema, address: z.email().max(254).nullable() })
  .readonly();
export type Student = z.infer<typeof studentSchema>;

/** A student to be: what can be read of one in a list. */
export type NewStudent = Pick<Student, 'name' | 'address'>;

/** Names as they are compared: case, accents and spaces make no other person. */
export const folded = (text: string): string =>
  text
    .normalize('NFKD')
    .replaceAll(/\p{M}/gu, '')
    .replaceAll(/\s+/g, ' ')
    .trim()
    .toLocaleLowerCase();

/**
 * Whether two stand for one student: the same address; where one has none, the same name.
 *
 * People of one name are told apart by their addresses.
 */
export const isSameStudent = (a: NewStudent, b: NewStudent): boolean =>
  a.address !== null && b.address !== null
    ? a.address.toLocaleLowerCase() === b.address.toLocaleLowerCase()
    : folded(a.name) === folded(b.name);

/** Students that others are compared with ({@link isSameStudent}), many at a time. */
export class KnownStudents<S extends NewStudent> {
  readonly #byAddress = new Map<string, S>();
  readonly #byName = new Map<string, S>();
  readonly #withoutAddress = new Map<string, S>();
  #size = 0;

  constructor(students: Iterable<S> = []) {
    for (const one of students) this.add(one);
  }

  get size(): number {
    return this.#size;
  }

  add(one: S): void {
    this.#size++;
    const name = folded(one.name);
    if (!this.#byName.has(name)) this.#byName.set(name, one);
    if (one.address === null) this.#withoutAddress.set(name, one);
    else this.#byAddress.set(one.address.toLocaleLowerCase(), one);
  }

  /** One of the same address. */
  withAddress({ address }: NewStudent): S | undefined {
    return address === null ? undefined : this.#byAddress.get(address.toLocaleLowerCase());
  }

  /** One that is the same. */
  find(one: NewStudent): S | undefined {
    const name = folded(one.name);
    if (one.address === null) return this.#byName.get(name);
    return this.withAddress(one) ?? this.#withoutAddress.get(name);
  }
}

/** Of some who are to come into a class: who isn't in it yet, each once. */
export const newOnes = (
  coming: readonly NewStudent[],
  present: readonly NewStudent[],
): NewStudent[] => {
  const known = new KnownStudents(present);
  return coming.filter((one) => {
    if (known.find(one)) return false;
    known.add(one);
    return true;
  });
};
