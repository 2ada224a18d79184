import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { StyleSheet, View } from 'react-native';
import { pathTo } from '@under-chalk/core/contract/api';
import type { FilmRow } from '@under-chalk/core/contract/films';
import { megabytes, type Destination } from '@under-chalk/core/destination/destination';
import { madeCheck } from '@under-chalk/core/destination/made-check';
import { call, codeOf } from '../../data/client';
import { askAgain, KEYS } from '../../data/queries';
import { Button } from '../../ui/button';
import { ProblemNotice } from '../../ui/notice';
import { ProgressLine } from '../../ui/progress-line';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';

interface Props {
  readonly film: FilmRow;
  readonly destination: Destination;
}

/** Whether a file that was made is what its place takes; one that is too large can be made smaller. */
export const Fits = ({ film, destination }: Props) => {
  const { length, bytes, captions } = madeCheck(film, destination);
  return (
    <>
      {[length, bytes, captions].map((one, index) =>
        one ? (
          <Words key={index} size="small" tone={one.fits ? 'good' : 'warn'}>
            {one.sentence}
          </Words>
        ) : null,
      )}
      {bytes && !bytes.fits ? <MadeToFit film={film} mostBytes={destination.mostBytes!} /> : null}
    </>
  );
};

const paramsOf = (filmId: string, mostBytes: number) => ({ filmId, mostBytes: String(mostBytes) });

/** A film with so many bytes at most: how it stands with it, and having it made. */
export const useFitted = (filmId: string, mostBytes: number | null) => {
  const client = useQueryClient();
  const params = paramsOf(filmId, mostBytes ?? 0);
  const queryKey = KEYS.fitted(filmId, mostBytes ?? 0);
  const { data } = useQuery({
    queryKey,
    queryFn: () => call('fitState', { params }),
    enabled: mostBytes !== null,
    refetchInterval: ({ state: { data: now, error } }) => askAgain(now?.state === 'making', error),
  });
  const make = useMutation({
    mutationFn: () => call('fitFilm', { params }),
    onSuccess: (now) => client.setQueryData(queryKey, now),
  });
  return { data: data ?? null, make };
};
export type UsedFitted = ReturnType<typeof useFitted>;

/** How far it is with a file that was asked for; nothing where none was. */
export const FittedFile = ({
  film,
  mostBytes,
  fitted: { data, make },
  doing,
  label,
}: {
  film: FilmRow;
  mostBytes: number;
  fitted: UsedFitted;
  /** While it is made. */
  doing: string;
  /** What saves it. */
  label: string;
}) => {
  if (data?.state === 'making')
    return <ProgressLine done={data.done} doing={doing} leftUs={null} />;
  const problem = data?.problem ?? (make.error ? codeOf(make.error) : null);
  return (
    <>
      {problem ? <ProblemNotice code={problem} /> : null}
      {data?.state === 'done' ? (
        <View style={styles.line}>
          <Button
            small
            label={`${label} (${megabytes(data.bytes)})`}
            spoken={`${label}: ${film.fileName}, ${megabytes(data.bytes)}`}
            onPress={() => location.assign(pathTo('fittedFile', paramsOf(film.id, mostBytes)))}
          />
        </View>
      ) : null}
    </>
  );
};

const MadeToFit = ({ film, mostBytes }: { film: FilmRow; mostBytes: number }) => {
  const fitted = useFitted(film.id, mostBytes);
  const most = megabytes(mostBytes);
  const { data, make } = fitted;
  const isOpen = data?.state === 'none' || data?.state === 'failed';
  return (
    <>
      <FittedFile
        {...{ film, mostBytes, fitted }}
        doing={`Making it fit ${most}`}
        label="Save it fitted"
      />
      {isOpen ? (
        <View style={styles.line}>
          <Button
            small
            label={`Make it fit ${most}`}
            disabled={make.isPending}
            onPress={() => make.mutate()}
          />
        </View>
      ) : null}
    </>
  );
};

const styles = StyleSheet.create({
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
