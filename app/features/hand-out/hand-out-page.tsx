import { useState } from 'react';
import { BIN_DAYS } from '@under-chalk/core/contract/bin';
import type { ClassRow, ClassView } from '@under-chalk/core/contract/classes';
import type { FilmRow } from '@under-chalk/core/contract/films';
import { ANYONE, grantTo, type Grant } from '@under-chalk/core/share-link/grant';
import { listed } from '@under-chalk/core/text/listed';
import { firstGrants } from '@under-chalk/core/share-link/first-grants';
import { asSentence } from '@under-chalk/core/text/as-sentence';
import { comingTakes } from '@under-chalk/core/lesson/take-names';
import { filmOf } from '@under-chalk/core/film/film';
import { filmLikes, knownBytes, sizeOf } from '@under-chalk/core/destination/picture-size';
import { pictureSizeSchema, type PictureSize } from '@under-chalk/core/destination/size-name';
import { codeOf } from '../../data/client';
import {
  useClass,
  useClasses,
  useFilms,
  useCreateLink,
  useMadeSoFar,
  useMakeFilm,
} from '../../data/queries';
import { Button } from '../../ui/button';
import { ChoiceLine } from '../../ui/choice-line';
import { Choices } from '../../ui/choices';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { LessonGauge, useDestination } from '../destinations/lesson-gauge';
import { LessonHead, useThisLesson } from '../lessons/lesson-layout';
import { GettingReady } from '../lessons/getting-ready';
import { BoardNotes } from './board-notes';
import { Files } from './files';
import { megabytes, SIZE_NAMES } from './film-words';
import type { Copied } from '../../ui/copy-text';
import { copyLink } from './copy-link';
import { Links } from './links';
import { AudienceChoice } from './audience-choice';
import { audienceInWords } from './audience-words';

const isDone = ({ state }: FilmRow): boolean => state === 'done';

/** Nothing has been recorded yet; or the film was made, and kept alone. */
const NothingInFilm = ({ isKept }: { isKept: boolean }) =>
  isKept ? (
    <Notice
      title="Only its film was kept."
      text={`What was recorded can be brought back from the bin for ${BIN_DAYS} days.`}
    />
  ) : (
    <Notice title="There is nothing in the film yet." text="Record something first." />
  );

/** Who may watch what is about to be handed out, where the lesson is of a class. */
const WhoMayWatch = ({
  grants,
  theirs,
  classes,
  students,
  onChange,
}: {
  grants: Grant[];
  theirs: ClassRow;
  classes: readonly ClassRow[];
  students: ClassView['students'];
  onChange: (grants: Grant[]) => void;
}) => {
  const nameOf = ({ grantee }: Grant): string =>
    grantee.is === 'class'
      ? (classes.find(({ id }) => id === grantee.classId)?.name ?? '')
      : grantee.is === 'student'
        ? (students.find(({ id }) => id === grantee.studentId)?.name ?? '')
        : '';
  const words = audienceInWords(
    grants.map((grant) => ({ ...grant, name: nameOf(grant), students: 1 })),
  );
  return (
    <ChoiceLine label="Who may watch" value={asSentence(words)}>
      <AudienceChoice grants={grants} className={theirs.name} onChange={onChange} />
    </ChoiceLine>
  );
};

/** Hand out: a link for students, and the film as a file. */
export const HandOutPage = () => {
  const view = useThisLesson();
  const { lesson } = view;
  const film = filmOf(lesson);
  const films = useFilms(lesson.id);
  const destination = useDestination(lesson.decisions.plan.destinationId);
  // The place's own size, until another is chosen.
  const [chosen, setSize] = useState<PictureSize | null>(null);
  const size = chosen ?? destination.size;
  const shareLink = useCreateLink(lesson.id);
  const makeFilm = useMakeFilm(lesson.id);
  const { className } = lesson.decisions.plan;
  const classes = useClasses();
  const theirs = (classes.data ?? []).find(({ name }) => name === className);
  const inClass = useClass(theirs?.id ?? null);
  const { title } = lesson.decisions.plan;
  const students = inClass.data?.students ?? [];
  // A lesson of a class is for that class; anyone else is a choice of the teacher's.
  const hasClass = theirs !== undefined && theirs.students > 0;
  const preset = hasClass ? grantTo({ is: 'class', classId: theirs.id }) : ANYONE;
  const first = firstGrants(title, students, preset);
  const [chosenGrants, setGrants] = useState<Grant[] | null>(null);
  const grants = chosenGrants ?? first.grants;
  // Before it is known whom the title names, nothing goes out to anyone.
  const isKnown = classes.data !== undefined && (!theirs || inClass.data !== undefined);
  const forAnyone = grants.some(({ grantee }) => grantee.is === 'anyone');
  const { sofar } = useMadeSoFar(lesson.id, lesson.revision, size);
  const likes = filmLikes(lesson, films.data ?? [], sofar);
  const choices = pictureSizeSchema.options.map((value) => {
    const px = sizeOf(lesson, value);
    const bytes = knownBytes(px, film.durationUs, likes);
    const about = bytes === null ? '' : `, about ${megabytes(bytes)}`;
    return {
      value,
      label: SIZE_NAMES[value],
      hint: `${px.widthPx} × ${px.heightPx}${about}`,
    };
  });
  const [made, setMade] = useState<{ id: string; copied: Copied } | null>(null);
  const makeLink = () => {
    const making = shareLink.mutateAsync({ size, grants });
    if (!forAnyone) {
      making.then(
        ({ id }) => setMade({ id, copied: 'no' }),
        () => undefined, // Told below.
      );
      return;
    }
    const token = making.then((link) => link.token ?? '');
    void Promise.all([making, copyLink(token).catch(() => 'failed' as const)]).then(
      ([{ id }, copied]) => setMade({ id, copied }),
      () => undefined, // Told below.
    );
  };
  const failed = shareLink.error ?? makeFilm.error ?? classes.error ?? inClass.error;
  return (
    <Screen
      name={`Hand out · ${lesson.decisions.plan.title}`}
      head={<LessonHead />}
      foot={
        <>
          <Button
            grow
            label="Export film"
            disabled={film.frames === 0 || makeFilm.isPending}
            onPress={() => makeFilm.mutate(size)}
          />
          <Button
            kind="main"
            grow
            label={forAnyone ? 'Make a link and copy it' : 'Hand it out'}
            disabled={film.frames === 0 || shareLink.isPending || !isKnown}
            onPress={makeLink}
          />
        </>
      }
    >
      <Heading level={1}>Hand out</Heading>
      <GettingReady view={view} />
      {film.frames === 0 ? (
        comingTakes(lesson).length > 0 ? null : (
          <NothingInFilm isKept={lesson.takes.length === 0 && (films.data ?? []).some(isDone)} />
        )
      ) : (
        <>
          <LessonGauge usedUs={film.durationUs} destinationId={destination.id} />
          <ChoiceLine
            label="Size of the picture"
            value={choices
              .filter(({ value }) => value === size)
              .map(({ label, hint }) => `${label} · ${hint}`)
              .join('')}
          >
            <Choices
              label="Size of the picture"
              hideLabel
              stacked
              choices={choices}
              value={size}
              onChoose={setSize}
            />
          </ChoiceLine>
          {hasClass ? (
            <WhoMayWatch
              grants={grants}
              theirs={theirs}
              classes={classes.data ?? []}
              students={students}
              onChange={setGrants}
            />
          ) : null}
          {chosenGrants === null && first.named.length > 0 ? (
            <Words size="small" tone="soft">
              {`The title names ${listed(first.named.map(({ name }) => name))}, so the film is for them alone until you choose others.`}
            </Words>
          ) : null}
        </>
      )}
      {failed ? <ProblemNotice code={codeOf(failed)} /> : null}
      <Links made={made} />
      <Files revision={lesson.revision} />
      <BoardNotes />
    </Screen>
  );
};
