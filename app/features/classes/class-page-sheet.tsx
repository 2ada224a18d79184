import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { pathTo } from '@under-chalk/core/contract/api';
import type { ClassPage } from '@under-chalk/core/contract/student-pages';
import { embedCode } from '@under-chalk/core/share-link/embed-code';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import { Failed, Loading } from '../../ui/screen';
import { Sheet } from '../../ui/sheet';
import { pageAddress } from './page-address';
import { PageSheet } from './page-sheet';

interface Props {
  readonly classId: string;
  readonly name: string;
  readonly onClose: () => void;
}

/** What a frame is as wide as it is high, before it is known what will be in it. */
const FRAME = 16 / 9;

/** A class's page, to be put into a course's site once and for all. */
export const ClassPageSheet = ({ classId, name, onClose }: Props) => {
  const page = useQuery({
    queryKey: KEYS.classPage(classId),
    // Given where there is none.
    queryFn: () => call('classPage', { params: { classId } }),
    staleTime: 0,
  });
  return (
    <Sheet title="The class’s page" open onClose={onClose}>
      {page.data ? (
        <Shown page={page.data} name={name} />
      ) : page.error ? (
        <Failed code={codeOf(page.error)} onRetry={() => void page.refetch()} />
      ) : (
        <Loading what="the page" />
      )}
    </Sheet>
  );
};

const Shown = ({ page: { classId, key, away }, name }: { page: ClassPage; name: string }) => {
  const client = useQueryClient();
  const params = { classId };
  const change = useMutation({
    mutationFn: (work: () => Promise<ClassPage>) => work(),
    onSuccess: (now) => client.setQueryData(KEYS.classPage(classId), now),
  });
  return (
    <PageSheet
      address={key && pageAddress(key)}
      away={away}
      title={`The page of ${name}`}
      about={`All films for ${name} are here, this week’s on top. Whoever has the address can watch them: it is for a place that only the class sees, as its page in a course’s site. What is for single students isn’t on it.`}
      aboutAway="The page is taken away. Nobody sees anything by it any more; students’ own pages go on."
      busy={change.isPending}
      error={change.error}
      onOpen={(open) => change.mutate(() => call('openClassPage', { params, body: { open } }))}
      onRenew={() => change.mutate(() => call('renewClassPage', { params }))}
      copies={
        key
          ? [
              {
                label: 'Copy the code that shows what is on now',
                text: embedCode(`${pageAddress(key)}/now`, `Now: ${name}`, FRAME),
              },
              {
                label: 'Copy the address of the feed',
                text: location.origin + pathTo('pageContentFeed', { key, form: 'atom' }),
              },
            ]
          : []
      }
    />
  );
};
