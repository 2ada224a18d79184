import type { Student } from '../class/class';
import { studentsInTitle } from '../class/names-in';
import { grantTo, type Grant } from './grant';

/**
 * Who may watch a film that is handed out, until others are chosen: those students of its class whom its title names, and nobody
 * else; where it names none, whoever else it would be for.
 */
export const firstGrants = <S extends Pick<Student, 'id' | 'name' | 'address'>>(
  title: string,
  students: readonly S[],
  others: Grant,
): { grants: Grant[]; named: S[] } => {
  const named = studentsInTitle(title, students);
  const alone = named.map(({ id }) => grantTo({ is: 'student', studentId: id }));
  return { grants: named.length > 0 ? alone : [others], named };
};
