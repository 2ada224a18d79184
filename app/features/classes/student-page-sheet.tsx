import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { StudentPage } from '@under-chalk/core/contract/student-pages';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import { CheckRow } from '../../ui/check-row';
import { Failed, Loading } from '../../ui/screen';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/text';
import { pageAddress } from './page-address';
import { PageSheet } from './page-sheet';

interface Props {
  readonly studentId: string;
  readonly name: string;
  readonly onClose: () => void;
}

/** A student's own page: its address to be passed on, and what can be done about it. */
export const StudentPageSheet = ({ studentId, name, onClose }: Props) => {
  const page = useQuery({
    queryKey: KEYS.studentPage(studentId),
    // Given where there is none.
    queryFn: () => call('studentPage', { params: { studentId } }),
    staleTime: 0,
  });
  return (
    <Sheet title={`The page of ${name}`} open onClose={onClose}>
      {page.data ? (
        <Shown page={page.data} />
      ) : page.error ? (
        <Failed code={codeOf(page.error)} onRetry={() => void page.refetch()} />
      ) : (
        <Loading what="the page" />
      )}
    </Sheet>
  );
};

const Shown = ({ page }: { page: StudentPage }) => {
  const client = useQueryClient();
  const { studentId, name, key, away, pin } = page;
  const params = { studentId };
  const change = useMutation({
    mutationFn: (work: () => Promise<StudentPage>) => work(),
    onSuccess: (now) => client.setQueryData(KEYS.studentPage(studentId), now),
  });
  return (
    <PageSheet
      address={key && pageAddress(key)}
      away={away}
      title={`The page of ${name}`}
      about={`All films for ${name} are here, without an account. Whoever has the address can watch them.`}
      aboutAway={`The page is taken away. ${name} sees nothing any more, neither there nor by the addresses of films on it.`}
      busy={change.isPending}
      error={change.error}
      onOpen={(open) => change.mutate(() => call('openPage', { params, body: { open } }))}
      onRenew={() => change.mutate(() => call('renewPage', { params }))}
    >
      <CheckRow
        label="Ask for a PIN"
        hint="Six digits, for an address that may be passed on"
        checked={pin !== null}
        disabled={change.isPending}
        onChange={(asked) => change.mutate(() => call('askPin', { params, body: { asked } }))}
      />
      {pin === null ? null : (
        <Words>
          {`The PIN of ${name} is `}
          <Words strong selectable testID="page-pin">
            {pin}
          </Words>
          {'. Tell it some other way than the address.'}
        </Words>
      )}
    </PageSheet>
  );
};
