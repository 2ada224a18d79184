import { useGlobalSearchParams } from 'expo-router';
import { useEffect, useMemo, useRef, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { filmOf } from '@under-chalk/core/film/film';
import { pathTo } from '@under-chalk/core/contract/api';
import { cuesIn, languagesOf } from '@under-chalk/core/words/cue';
import { cueAt, type FilmCue } from '@under-chalk/core/words/film-cues';
import { type Form } from '@under-chalk/core/words/given';
import { languageName } from '@under-chalk/core/words/language';
import { newId } from '../../capture/new-id';
import { usePart } from '../../data/live-value';
import { CaptionOver } from '../../player/caption-over';
import type { FilmPlayer } from '../../player/film-player';
import { FilmView } from '../../player/film-view';
import { useFilmPlayer } from '../../player/use-film-player';
import { Button } from '../../ui/button';
import { useLayout } from '../../ui/layout';
import { Menu } from '../../ui/menu';
import { Notice } from '../../ui/notice';
import { Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { VirtualList } from '../../ui/virtual-list';
import { GettingReady } from '../lessons/getting-ready';
import { LessonHead, useGoTo, useThisLesson } from '../lessons/lesson-layout';
import { PictureBeside } from '../lessons/picture-beside';
import { UndoRedo } from '../lessons/undo-redo';
import { CueRow } from './cue-row';
import { DescribePanel } from './describe-panel';
import { FilePanel, useWordsFile } from './file-panel';
import { InTimePanel, useListeners, useInTime } from './in-time';
import { BurntInCaptions } from './burnt-in-captions';
import { LanguageChoice } from './language-choice';
import { MakeRight, ReplaceWords } from './mend-all';
import { PastePanel } from './paste-panel';
import { TypingPanel } from './typing-panel';
import { useCaptions, useSpokenCues } from './use-captions';
import { useSpeech } from './use-speech';

/** Height of a row as it mostly is, px. */
const LIKELY_HEIGHT = 92;
/** Share of the height that the picture may take above the list. */
const MOST_UPRIGHT = 0.34;
/** Beside the list, the picture leaves room for what stands under it, px. */
const UNDER_PICTURE = 260;
const MOST_SHARE = 0.5;

type Doing = 'nothing' | 'typing' | 'pasting' | 'replacing' | 'describing';

const SAVED_AS: readonly { readonly form: Form; readonly label: string }[] = [
  { form: 'vtt', label: 'Save as WebVTT' },
  { form: 'srt', label: 'Save as SRT' },
  { form: 'txt', label: 'Save the transcript as text' },
  { form: 'html', label: 'Save the transcript as a page' },
];

/** Words: the captions of the lesson beside its picture, and the ways to get them. */
export const WordsPage = () => {
  const view = useThisLesson();
  const { lesson } = view;
  const goTo = useGoTo();
  const film = useMemo(() => filmOf(lesson), [lesson]);
  const player = useFilmPlayer(film);
  useAskedPlace(player);
  const { language: spoken, cues: all } = lesson.decisions;
  const languages = languagesOf(all, spoken);
  const [chosen, setChosen] = useState<string | null>(null);
  const language = chosen ?? languages[0] ?? spoken;
  const captions = useCaptions(film, language);
  const spokenCues = useSpokenCues(film, language);
  const speech = useSpeech(film);
  const [doing, setDoing] = useState<Doing>('nothing');
  const [pasted, setPasted] = useState<string | undefined>();
  const file = useWordsFile(lesson.id);
  const input = useRef<HTMLInputElement>(null);
  const chooseFile = () => input.current?.click();
  const inTime = useInTime(lesson.id, language);
  const listeners = useListeners(language);
  const [unheard, setUnheard] = useState<readonly string[] | null>(null);
  const { beside, height } = useLayout();
  const empty = captions.cues.length === 0;
  const nothing = film.frames === 0;
  const copySpoken = () =>
    captions.write(
      cuesIn(all, spoken).map((cue) => ({
        ...cue,
        id: newId(),
        words: null,
        timed: cue.timed === 'by-voice' ? 'by-hand' : cue.timed,
      })),
    );
  const paste = () => setDoing('pasting');
  const describe = () => setDoing('describing');
  const waysIn = empty ? (
    <>
      <Button small grow label="Type as you listen" onPress={() => setDoing('typing')} />
      <Button small grow label="Paste words" onPress={paste} />
      <Button small grow label="From a file" onPress={chooseFile} />
      {listeners.drafts && language === spoken ? (
        <Button
          small
          grow
          label="Draft by machine"
          onPress={() => void inTime.begin('draftWords')}
        />
      ) : null}
      {language !== spoken && languages.includes(spoken) ? (
        <Button small grow label={`Write under the ${languageName(spoken)}`} onPress={copySpoken} />
      ) : null}
      {language === spoken ? (
        <Button small grow label="Describe what is seen" onPress={describe} />
      ) : null}
    </>
  ) : (
    <>
      <Button
        small
        grow
        label="Type on"
        spoken="Type on as you listen"
        onPress={() => setDoing('typing')}
      />
      {listeners.times && language === spoken ? (
        <Button
          small
          grow
          label="Put in time"
          spoken="Put the captions in time with the voice"
          onPress={() => void inTime.begin('timeWords')}
        />
      ) : null}
      <Menu
        of="the captions"
        items={[
          { label: 'Replace words', onPress: () => setDoing('replacing') },
          { label: 'Paste other words', onPress: paste },
          { label: 'Bring in a file', onPress: chooseFile },
          ...SAVED_AS.map(({ form, label }) => ({
            label,
            onPress: () =>
              location.assign(pathTo('wordsFile', { lessonId: lesson.id, language, form })),
          })),
          ...(language === spoken ? [{ label: 'Describe what is seen', onPress: describe }] : []),
          {
            label: 'Take all of them away',
            grave: true,
            onPress: () =>
              captions.write(
                [],
                captions.cues.map(({ id }) => id),
              ),
          },
        ]}
      />
    </>
  );
  return (
    <Screen
      name={`Words · ${lesson.decisions.plan.title}`}
      wide
      head={<LessonHead />}
      foot={
        doing === 'typing' ? (
          <TypingPanel
            key={language}
            captions={captions}
            player={player}
            speech={speech}
            onDone={() => setDoing('nothing')}
          />
        ) : (
          <>
            <UndoRedo film={film} steps={view.steps} />
            <Button kind="main" grow label="Last look" onPress={() => goTo('last-look')} />
          </>
        )
      }
    >
      <GettingReady view={view} />
      {nothing ? (
        <>
          <Heading level={1}>Words</Heading>
          <Notice title="There is nothing to write words for yet." text="Record something first." />
        </>
      ) : (
        <PictureBeside
          title="Words"
          mostShare={MOST_SHARE}
          wide={1.3}
          picture={
            <FilmView
              player={player}
              mostHigh={beside ? height - UNDER_PICTURE : height * MOST_UPRIGHT}
            >
              {lesson.decisions.captionLook.burntIn && language === spoken ? null : (
                <CaptionOver player={player} film={film} language={language} />
              )}
            </FilmView>
          }
          column={(covered) =>
            doing === 'describing' ? (
              <DescribePanel
                film={film}
                player={player}
                speech={speech}
                onDone={() => setDoing('nothing')}
              />
            ) : (
              <>
                <LanguageChoice
                  languages={languages}
                  spoken={spoken}
                  language={language}
                  onChoose={(one) => {
                    setChosen(one);
                    setUnheard(null);
                    inTime.stop();
                  }}
                />
                {!empty && language === spoken ? <BurntInCaptions lesson={lesson} /> : null}
                {doing === 'pasting' ? (
                  <PastePanel
                    key={language}
                    captions={captions}
                    speech={speech}
                    {...(pasted === undefined ? {} : { text: pasted })}
                    onDone={(put) => {
                      setDoing('nothing');
                      setPasted(undefined);
                      if (put) setUnheard(null);
                    }}
                  />
                ) : doing === 'replacing' ? (
                  <ReplaceWords captions={captions} onDone={() => setDoing('nothing')} />
                ) : (
                  <>
                    {empty ? (
                      <Words tone="soft">
                        {language === spoken
                          ? 'No captions yet. Type what you hear, paste what you read out, or bring in a file.'
                          : `No captions in ${languageName(language)} yet.`}
                      </Words>
                    ) : null}
                    {doing === 'typing' ? null : <View style={styles.ways}>{waysIn}</View>}
                  </>
                )}
                <FilePanel
                  captions={captions}
                  file={file}
                  input={input}
                  onChoose={chooseFile}
                  onText={(text) => {
                    setPasted(text);
                    setDoing('pasting');
                  }}
                  onDone={() => setUnheard(null)}
                />
                <InTimePanel
                  captions={captions}
                  player={player}
                  inTime={inTime}
                  onUnheard={setUnheard}
                />
                {empty ? null : <MakeRight captions={captions} />}
                {empty ? null : (
                  <CueList
                    captions={captions}
                    player={player}
                    covered={covered}
                    unheard={unheard}
                    spokenCues={spokenCues}
                    follows={doing !== 'typing'}
                  />
                )}
              </>
            )
          }
        />
      )}
    </Screen>
  );
};

interface ListProps {
  readonly captions: ReturnType<typeof useCaptions>;
  readonly player: ReturnType<typeof useFilmPlayer>;
  readonly covered: number;
  readonly unheard: readonly string[] | null;
  readonly spokenCues: readonly FilmCue[] | null;
  readonly follows: boolean;
}

/** All captions that the film has, in its order; the current one stays in sight. */
const CueList = ({ captions, player, covered, unheard, spokenCues, follows }: ListProps) => {
  const { shown, cues } = captions;
  const [open, setOpen] = useState<string | null>(null);
  const current = usePart(player, ({ filmUs }) =>
    shown.findLastIndex(({ startUs }) => startUs <= filmUs),
  );
  const hidden = cues.length - new Set(shown.map(({ cue }) => cue.id)).size;
  const keyOf = (index: number) =>
    `${shown[index]!.cue.id} ${shown[index]!.fromWord} ${shown[index]!.placementId}`;
  const openAt = open === null ? -1 : shown.findIndex((_, index) => keyOf(index) === open);
  return (
    <>
      <VirtualList
        label="Captions"
        count={shown.length}
        keyOf={keyOf}
        likelyHeight={LIKELY_HEIGHT}
        covered={covered}
        shown={openAt >= 0 || !follows || current < 0 ? null : current}
        row={(index) => (
          <CueRow
            captions={captions}
            player={player}
            index={index}
            open={index === openAt}
            spoken={
              spokenCues
                ? (cueAt(spokenCues, (shown[index]!.startUs + shown[index]!.endUs) / 2)?.text ??
                  null)
                : null
            }
            unheard={unheard?.includes(shown[index]!.cue.id) ?? false}
            onOpen={(at) => {
              setOpen(at === null ? null : keyOf(at));
              if (at !== null) void player.seek(shown[at]!.startUs + 20_000);
            }}
          />
        )}
      />
      {hidden > 0 ? (
        <Words size="small" tone="soft">
          {`${hidden === 1 ? 'One more belongs' : `${hidden} more belong`} to what was cut or left out; bring that back, and ${hidden === 1 ? 'it is' : 'they are'} here again.`}
        </Words>
      ) : null}
    </>
  );
};

/** Shows the place that a search led to (`?at=`, µs of the film). */
const useAskedPlace = (player: FilmPlayer) => {
  const { at } = useGlobalSearchParams<{ at?: string }>();
  useEffect(() => {
    if (at !== undefined && /^\d{1,12}$/.test(at)) void player.seek(Number(at) + 20_000);
  }, [player, at]);
};

const styles = StyleSheet.create({
  ways: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
