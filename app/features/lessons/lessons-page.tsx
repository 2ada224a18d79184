import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Link, useRouter, type Href } from 'expo-router';
import { useState } from 'react';
import { StyleSheet, useWindowDimensions, View } from 'react-native';
import type { LessonRow as Row } from '@under-chalk/core/contract/lessons';
import {
  byClassAndUnit,
  firstOf,
  lessonsFound,
  nextLesson,
  standingSo,
  type Standing,
} from '@under-chalk/core/lesson/lesson-list';
import { asSentence } from '@under-chalk/core/text/as-sentence';
import { newId } from '../../capture/new-id';
import { call, codeOf } from '../../data/client';
import { KEYS, useBin, useLessons, useSession } from '../../data/queries';
import { Button } from '../../ui/button';
import { counted } from '../../ui/counted';
import { CheckRow } from '../../ui/check-row';
import { Choices } from '../../ui/choices';
import { Field } from '../../ui/field';
import { WhenSeen } from '../../ui/in-view';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE, useTheme, WIDE } from '../../ui/theme';
import { DeletedRow, type Gone } from '../bin/deleted-row';
import { Unfinished } from '../record/unfinished';
import { ImportLesson } from './import-lesson';
import { LessonRow, stateOf } from './lesson-row';
import { TranscriptResults } from './transcript-results';
import { archiveSeveral, type Done } from './do-with-several';
import { NewLesson } from './new-lesson';
import { SeveralBar, SeveralDone } from './several';

/** From so many on they, and what is said in them, can be looked for. */
const FEW = 3;
/** From so many on the next to do stands apart. */
const MANY = 6;

/** From so many on they can be told apart by how far they have come. */
const MANY_MORE = 12;
/** So many are drawn at first, and so many more whenever the last of them comes into view. */
const AT_FIRST = 40;
const MORE = 80;

/** What was looked for, and how much was drawn, when the page was left: it is as it was on return. */
let lookedBefore = '';
let standingBefore: Standing = 'all';
let drawnBefore = AT_FIRST;

const STANDINGS: readonly { readonly value: Standing; readonly label: string }[] = [
  { value: 'all', label: 'All' },
  { value: 'to-do', label: 'Not handed out' },
  { value: 'handed-out', label: 'Handed out' },
  { value: 'archived', label: 'Archive' },
];

/** All lessons by class and unit, and the way to begin one. */
export const LessonsPage = () => {
  const lessons = useLessons();
  const session = useSession();
  const theme = useTheme();
  const [gone, setGone] = useState<Gone | null>(null);
  const [looked, setLooked] = useState(lookedBefore);
  const look = (text: string) => {
    lookedBefore = text;
    drawnBefore = AT_FIRST;
    setLooked(text);
  };
  const [standing, setStanding] = useState(standingBefore);
  const tellApart = (value: Standing) => {
    standingBefore = value;
    drawnBefore = AT_FIRST;
    setStanding(value);
  };
  const [chosen, setChosen] = useState<ReadonlySet<string> | null>(null);
  const [done, setDone] = useState<Done | null>(null);
  const choose = (id: string, isChosen: boolean) => {
    const next = new Set(chosen);
    if (isChosen) next.add(id);
    else next.delete(id);
    setChosen(next);
  };
  const client = useQueryClient();
  const archive = useMutation({
    mutationFn: (lesson: Row) => archiveSeveral([lesson], !lesson.archived),
    onSuccess: setDone,
    onSettled: () => client.invalidateQueries({ queryKey: KEYS.lessons }),
  });
  const all = lessons.data ?? [];
  const hasArchive = all.some(({ archived }) => archived);
  const isToldApart = all.length >= MANY_MORE || hasArchive;
  const standings = STANDINGS.filter(({ value }) => value !== 'archived' || hasArchive);
  const shownStanding =
    isToldApart && standings.some(({ value }) => value === standing) ? standing : 'all';
  const link = { color: theme.action, textDecorationLine: 'underline' as const };
  return (
    <Screen
      name="Lessons"
      wide
      keepScroll="lessons"
      foot={
        chosen ? (
          <SeveralBar
            lessons={(lessons.data ?? []).filter(({ id }) => chosen.has(id))}
            onDone={(what) => {
              setDone(what);
              setChosen(null);
            }}
            onLeave={() => setChosen(null)}
          />
        ) : undefined
      }
    >
      <View style={styles.head}>
        <Heading level={1}>Lessons</Heading>
        <Link href={'/you' as Href} style={styles.you}>
          <Words size="small" style={link}>
            {session.data?.teacherName || 'You'}
          </Words>
        </Link>
      </View>
      <Unfinished />
      <NewLesson />
      {done ? <SeveralDone done={done} onClose={() => setDone(null)} /> : null}
      {archive.error ? <ProblemNotice code={codeOf(archive.error)} /> : null}
      {gone ? <DeletedRow gone={gone} onBack={() => setGone(null)} /> : null}
      {lessons.data ? (
        lessons.data.length === 0 ? (
          <Notice
            title="No lesson yet."
            text="Name the goal of the first one above: “Tide heights by the rule of twelfths” says more than a date."
          />
        ) : (
          <>
            {lessons.data.length >= FEW || looked ? (
              <Field
                label="Find a lesson"
                hideLabel
                placeholder="Find by title, class, or what is said"
                value={looked}
                onChangeText={look}
                inputMode="search"
              />
            ) : null}
            {isToldApart ? (
              <Choices
                label="Which lessons"
                hideLabel
                choices={standings}
                value={shownStanding}
                onChoose={tellApart}
              />
            ) : null}
            <TranscriptResults looked={looked} />
            <Groups
              lessons={standingSo(lessons.data, shownStanding)}
              looked={looked}
              which={`${shownStanding} ${looked}`}
              chosen={chosen}
              onChoose={choose}
              onGone={setGone}
              onArchive={(lesson) => archive.mutate(lesson)}
              archived={shownStanding === 'archived' ? [] : standingSo(all, 'archived')}
              onLookThere={() => tellApart('archived')}
            />
          </>
        )
      ) : lessons.error ? (
        <Failed code={codeOf(lessons.error)} onRetry={() => void lessons.refetch()} />
      ) : (
        <Loading what="your lessons" />
      )}
      <View style={styles.foot}>
        <ImportLesson />
        <Link href={'/classes' as Href} style={styles.you}>
          <Words style={link}>Classes</Words>
        </Link>
        <BinLink style={link} />
        <Link href={'/storage' as Href} style={styles.you}>
          <Words style={link}>Storage</Words>
        </Link>
      </View>
    </Screen>
  );
};

const Groups = ({
  lessons,
  looked,
  which,
  chosen,
  onChoose,
  onGone,
  onArchive,
  archived,
  onLookThere,
}: {
  lessons: readonly Row[];
  looked: string;
  /** Names what is looked for: another is drawn from its beginning. */
  which: string;
  /** Those that are chosen; null: none are being chosen. */
  chosen: ReadonlySet<string> | null;
  onChoose: (id: string, isChosen: boolean) => void;
  onGone: (gone: Gone) => void;
  onArchive: (lesson: Row) => void;
  /** What is in the archive, where that isn't shown already, and the way there. */
  archived: readonly Row[];
  onLookThere: () => void;
}) => {
  const { width } = useWindowDimensions();
  const client = useQueryClient();
  const router = useRouter();
  const copy = useMutation({
    mutationFn: (lessonId: string) =>
      call('duplicateLesson', { params: { lessonId }, body: { id: newId() } }),
    onSuccess: (view) => {
      void client.invalidateQueries({ queryKey: KEYS.lessons });
      router.push(`/lessons/${view.lesson.id}/plan` as Href);
    },
  });
  const found = lessonsFound(lessons, looked);
  const next = looked === '' && found.length >= MANY ? nextLesson(found) : null;
  const [drawn, setDrawn] = useState(drawnBefore);
  const [before, setBefore] = useState(which);
  if (which !== before) {
    setBefore(which);
    setDrawn(AT_FIRST);
  }
  const drawMore = () => {
    drawnBefore = drawn + MORE;
    setDrawn(drawnBefore);
  };
  const groups = firstOf(byClassAndUnit(found.filter((lesson) => lesson !== next)), drawn);
  const list = (name: string, of: readonly Row[]) => (
    <View key={name} style={styles.group}>
      <Heading level={2} style={styles.groupName}>
        {name || 'Of no class'}
      </Heading>
      <View
        role="list"
        aria-label={name || 'Of no class'}
        style={[styles.list, width >= WIDE ? styles.beside : null]}
      >
        {of.map((lesson) => (
          <View
            key={lesson.id}
            style={width >= WIDE ? styles.half : null}
            {...(chosen ? { role: 'listitem' as const } : {})}
          >
            {chosen ? (
              <CheckRow
                label={lesson.title || 'Without a title'}
                hint={stateOf(lesson)}
                checked={chosen.has(lesson.id)}
                onChange={(isChosen) => onChoose(lesson.id, isChosen)}
              />
            ) : (
              <LessonRow
                lesson={lesson}
                onChoose={() => onChoose(lesson.id, true)}
                onCopy={() => copy.mutate(lesson.id)}
                onArchive={() => onArchive(lesson)}
                onThrowAway={() =>
                  onGone({ kind: 'lesson', id: lesson.id, name: lesson.title || 'The lesson' })
                }
              />
            )}
          </View>
        ))}
      </View>
    </View>
  );
  const inArchive = found.length === 0 && looked !== '' ? lessonsFound(archived, looked).length : 0;
  if (found.length === 0) {
    return looked === '' ? (
      <Words tone="soft">None stands so.</Words>
    ) : (
      <Notice
        title={inArchive > 0 ? 'Only in the archive.' : 'No lesson is called so.'}
        text={
          inArchive > 0
            ? `${asSentence(counted(inArchive, 'lesson'))} there ${inArchive === 1 ? 'is' : 'are'} called so.`
            : 'Look for fewer words, or for its class.'
        }
      >
        {inArchive > 0 ? <Button small label="Look there" onPress={onLookThere} /> : null}
      </Notice>
    );
  }
  return (
    <>
      {copy.error ? <ProblemNotice code={codeOf(copy.error)} /> : null}
      {next ? list('Next to do', [next]) : null}
      {groups.map(({ name, lessons: of }) => list(name, of))}
      {found.length > drawn ? (
        <WhenSeen key={drawn} onSeen={drawMore}>
          <Button label={`Show more of the ${found.length}`} onPress={drawMore} />
        </WhenSeen>
      ) : null}
    </>
  );
};

/** The way to what was thrown away, where there is something. */
const BinLink = ({ style }: { style: object }) => {
  const bin = useBin();
  const count = bin.data?.length ?? 0;
  if (count === 0) return null;
  return (
    <Link href={'/bin' as Href} style={styles.you}>
      <Words style={style}>{`Bin (${count})`}</Words>
    </Link>
  );
};

const styles = StyleSheet.create({
  head: {
    flexDirection: 'row',
    justifyContent: 'space-between',
    alignItems: 'center',
    flexWrap: 'wrap',
  },
  foot: {
    flexDirection: 'row',
    flexWrap: 'wrap',
    gap: SPACE.large,
    alignItems: 'center',
    marginTop: SPACE.small,
  },
  you: { minHeight: 44, minWidth: 44, display: 'flex', alignItems: 'center' },
  group: { gap: SPACE.hair },
  groupName: { fontSize: 17, lineHeight: 24 },
  list: { gap: SPACE.hair },
  beside: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  half: { width: '49.4%' },
});
