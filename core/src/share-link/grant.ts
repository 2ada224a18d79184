import * as z from 'zod';
import { idSchema } from '../lesson/take';

/** Most grants of one link. */
export const MOST_GRANTS = 1_000;

/** Whom a grant lets watch: whoever has the link, all who are in a class, or one student. */
export const granteeSchema = z.discriminatedUnion('is', [
  z.object({ is: z.literal('anyone') }),
  z.object({ is: z.literal('class'), classId: idSchema }),
  z.object({ is: z.literal('student'), studentId: idSchema }),
]);
export type Grantee = z.infer<typeof granteeSchema>;

/** That somebody may watch a link. Times are ISO 8601, in UTC; null: as the link itself says. */
export const grantSchema = z
  .object({
    grantee: granteeSchema,
    availableFrom: z.iso.datetime().nullable().default(null),
    availableUntil: z.iso.datetime().nullable().default(null),
  })
  .readonly();
export type Grant = z.infer<typeof grantSchema>;

/** The same for the same: to find a grant among others. */
export const granteeKey = (grantee: Grantee): string => {
  switch (grantee.is) {
    case 'anyone':
      return 'anyone';
    case 'class':
      return `class ${grantee.classId}`;
    case 'student':
      return `student ${grantee.studentId}`;
  }
};

/** With no times of its own. */
export const grantTo = (grantee: Grantee): Grant => ({
  grantee,
  availableFrom: null,
  availableUntil: null,
});

export const ANYONE: Grant = grantTo({ is: 'anyone' });

const isOf =
  (studentId: string) =>
  ({ grantee }: Grant) =>
    grantee.is === 'student' && grantee.studentId === studentId;

/** Until when one student alone may watch; null: as the others may. */
export const ownTimeOf = (grants: readonly Grant[], studentId: string): string | null =>
  grants.find(isOf(studentId))?.availableUntil ?? null;

/**
 * Grants by which one student may watch until a time of their own; null: as the others may. Who is named only for the time is named no
 * more when it goes, as long as it is for others too.
 */
export const withOwnTime = (
  grants: readonly Grant[],
  studentId: string,
  availableUntil: string | null,
): Grant[] => {
  const others = grants.filter((grant) => !isOf(studentId)(grant));
  const one = grants.find(isOf(studentId));
  const isInOthers = others.some(({ grantee }) => grantee.is !== 'student');
  if (availableUntil === null && isInOthers) return others;
  return [
    ...others,
    {
      grantee: { is: 'student', studentId },
      availableFrom: one?.availableFrom ?? null,
      availableUntil,
    },
  ];
};
