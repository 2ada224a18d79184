import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { pathTo } from '@under-chalk/core/contract/api';
import { BIN_DAYS } from '@under-chalk/core/contract/bin';
import type { LessonStorage } from '@under-chalk/core/contract/storage';
import { call, codeOf } from '../../data/client';
import { useTeacherText } from '../../messages/use-text';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { Menu } from '../../ui/menu';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';

type Doing = 'keepUsedFootage' | 'keepFilmOnly';

interface Props {
  readonly lesson: LessonStorage;
  /** What the largest takes up, bytes. */
  readonly most: number;
}

/** A lesson, what it takes up, and what can be done about that. */
export const StorageRow = ({ lesson, most }: Props) => {
  const { id, title, className, footageBytes, filmBytes, spareBytes, hasFilm } = lesson;
  const theme = useTheme();
  const { t, size } = useTeacherText();
  const client = useQueryClient();
  const [asked, setAsked] = useState(false);
  const press = useMutation({
    mutationFn: (doing: Doing) => call(doing, { params: { lessonId: id } }),
    onSettled: () => client.invalidateQueries(),
  });
  const away = useMutation({
    mutationFn: () => call('moveToBin', { params: { kind: 'lesson', id } }),
    onSettled: () => client.invalidateQueries(),
  });
  const keep = useFocusWhen(asked);
  const name = title || t('storage.untitled');
  const error = press.error ?? away.error;
  const share = (bytes: number) => `${(bytes / most) * 100}%` as const;
  return (
    <View
      role="listitem"
      style={[styles.row, { borderColor: theme.line, backgroundColor: theme.card }]}
    >
      <View style={styles.head}>
        <View style={styles.words}>
          <Words strong>{name}</Words>
          <Words size="small" tone="soft">
            {[
              className,
              footageBytes > 0 ? t('storage.footage', { size: size(footageBytes) }) : '',
              filmBytes > 0 ? t('storage.films', { size: size(filmBytes) }) : '',
              spareBytes > 0 ? t('storage.spare', { size: size(spareBytes) }) : '',
            ]
              .filter(Boolean)
              .join(' · ')}
          </Words>
        </View>
        <Menu
          of={name}
          items={[
            {
              label: t('storage.archive'),
              onPress: () => location.assign(pathTo('lessonArchive', { lessonId: id })),
            },
            ...(spareBytes > 0
              ? [
                  {
                    label: t('storage.keepUsed'),
                    onPress: () => press.mutate('keepUsedFootage'),
                  },
                ]
              : []),
            ...(hasFilm && footageBytes > 0
              ? [{ label: t('storage.keepFilm'), onPress: () => setAsked(true) }]
              : []),
            { label: t('storage.delete'), grave: true, onPress: () => away.mutate() },
          ]}
        />
      </View>
      <View aria-hidden style={[styles.gauge, { backgroundColor: theme.line }]}>
        <View style={{ width: share(footageBytes), backgroundColor: theme.action }} />
        <View style={{ width: share(filmBytes), backgroundColor: theme.good }} />
      </View>
      {error ? <ProblemNotice code={codeOf(error)} /> : null}
      {asked ? (
        <View style={styles.asked}>
          <Words>{t('storage.keepFilmHelp', { days: BIN_DAYS })}</Words>
          <View style={styles.buttons}>
            <Button small ref={keep} label={t('storage.keepAll')} onPress={() => setAsked(false)} />
            <Button
              small
              kind="grave"
              label={t('storage.keepFilmSure')}
              spoken={t('storage.keepFilmSureIt', { name })}
              disabled={press.isPending}
              onPress={() => press.mutate('keepFilmOnly', { onSettled: () => setAsked(false) })}
            />
          </View>
        </View>
      ) : null}
    </View>
  );
};

const styles = StyleSheet.create({
  row: { borderWidth: 1, borderRadius: RADIUS.medium, padding: SPACE.medium, gap: SPACE.small },
  head: { flexDirection: 'row', alignItems: 'flex-start', gap: SPACE.small },
  words: { flexShrink: 1, flexGrow: 1, gap: SPACE.hair },
  gauge: { flexDirection: 'row', height: 6, borderRadius: 3, overflow: 'hidden' },
  asked: { gap: SPACE.small },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.large },
});
