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
  const { length, bytes } = madeCheck(film, destination);
  return (
    <>
      {[length, bytes].map((one, index) =>
        one ? (
          <Words key={index} size="small" tone={one.fits ? 'good' : 'warn'}>
            {one.sentence}
          </Words>
        ) : null,
      )}
      {bytes && !bytes.fits ? <Fitted film={film} mostBytes={destination.mostBytes!} /> : null}
    </>
  );
};

const Fitted = ({ film, mostBytes }: { film: FilmRow; mostBytes: number }) => {
  const client = useQueryClient();
  const params = { filmId: film.id, mostBytes: String(mostBytes) };
  const queryKey = KEYS.fitted(film.id, mostBytes);
  const state = useQuery({
    queryKey,
    queryFn: () => call('fitState', { params }),
    refetchInterval: ({ state: { data, error } }) => askAgain(data?.state === 'making', error),
  });
  const make = useMutation({
    mutationFn: () => call('fitFilm', { params }),
    onSuccess: (now) => client.setQueryData(queryKey, now),
  });
  const most = megabytes(mostBytes);
  const { data } = state;
  if (!data) return null;
  if (data.state === 'making')
    return <ProgressLine done={data.done} doing={`Making it fit ${most}`} leftUs={null} />;
  return (
    <>
      {data.problem || make.error ? (
        <ProblemNotice code={data.problem ?? codeOf(make.error)} />
      ) : null}
      <View style={styles.line}>
        {data.state === 'done' ? (
          <Button
            small
            label={`Save it fitted (${megabytes(data.bytes)})`}
            onPress={() => location.assign(pathTo('fittedFile', params))}
          />
        ) : (
          <Button
            small
            label={`Make it fit ${most}`}
            disabled={make.isPending}
            onPress={() => make.mutate()}
          />
        )}
      </View>
    </>
  );
};

const styles = StyleSheet.create({
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
