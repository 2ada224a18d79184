import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { UNCROPPED, type Crop } from '@under-chalk/core/lesson/crop';
import { placedIn } from '@under-chalk/core/lesson/lesson';
import { namedPage } from '@under-chalk/core/material/named-page';
import { nextTopic } from '@under-chalk/core/plan/topic';
import { movedTo } from '@under-chalk/core/lesson/placement';
import { isDark } from '@under-chalk/core/record/recorder-state';
import { NONE, PRACTICE } from '../../capture/devices';
import { playTick } from '../../capture/play-sound';
import { Recorder } from '../../capture/recorder';
import { useEdits } from '../../data/edits';
import { usePart } from '../../data/live-value';
import { KEYS } from '../../data/queries';
import { useLightsDown } from '../../ui/lights';
import { BOARD } from '../board/board-stacks';
import { LiveBoard } from '../board/live-board';
import { useGoTo, useThisLesson } from '../lessons/lesson-layout';
import { useBoardMaterials } from '../materials/use-board-materials';
import { rememberChoice, rememberedChoice } from './choice-memory';
import { GetReady } from './get-ready';
import { LookBack } from './look-back';
import { Recording } from './recording';
import { useLive } from './use-live';
import { usePracticePen } from './use-practice-pen';
import { useReplaced } from './use-replaced';
import { tracksOf, useSources, type Chosen } from './use-sources';
import { useStay } from './use-stay';
import { useWakeLock } from './use-wake-lock';

/** What is written on while it is recorded: the board, and whatever is captured. */
const isWrittenOn = ({ source }: Chosen): boolean => source !== 'sound';

/** Record: get ready, record, and look back at once. */
export const RecordPage = () => {
  const { lesson } = useThisLesson();
  const { put } = useEdits();
  const client = useQueryClient();
  const goTo = useGoTo();
  const [recorder] = useState(() => new Recorder());
  const state = usePart(recorder, (view) => view.state);
  const [chosen, setChosen] = useState(rememberedChoice);
  const [board] = useState(() => new LiveBoard(chosen.paper));
  // What is written over what is captured begins anew with each take.
  const [over, setOver] = useState(() => new LiveBoard(chosen.paper, true));
  const [crop, setCrop] = useState<Crop>(UNCROPPED);
  const [redo, setRedo] = useState<{ takeId: string; name: string } | null>(null);
  const sources = useSources(chosen);
  const live = useLive(recorder);
  const written = chosen.source === 'board' ? board : over;
  const materials = useBoardMaterials(lesson.id, [board, over]);
  // What is chosen to be shown is opened, as soon as it is there.
  const opens = chosen.opens === 'materials' ? (materials[0]?.id ?? null) : BOARD;
  useEffect(() => {
    if (opens) board.open(opens);
  }, [board, opens]);
  usePracticePen(chosen.source === 'board' && chosen.pen === PRACTICE ? board : null, state.name);
  const dark = isDark(state);
  useLightsDown(dark);
  useWakeLock(dark);
  const stay = useStay(dark);
  useReplaced(recorder, dark, sources);
  // Whatever takes the page away: the take ends, and is brought to safety.
  useEffect(() => () => recorder.leave(), [recorder]);

  const choose = (change: Partial<Chosen>) => {
    const next = { ...chosen, ...change };
    setChosen(next);
    if (change.paper) [board, over].forEach((each) => each.setPaper(change.paper!));
    rememberChoice(next);
  };
  const start = (voice: 'as-chosen' | 'without') => {
    // It begins with what the first topic shows.
    const { topics, topicsDone } = lesson.decisions;
    const named = namedPage(nextTopic(topics, topicsDone)?.show ?? '', written.view().stacks);
    if (named && chosen.source === 'board') written.open(named.id, named.page);
    const { voice: heard, ...silent } = tracksOf(chosen, sources);
    void recorder.begin({
      lessonId: lesson.id,
      lessonTitle: lesson.decisions.plan.title,
      source: chosen.source,
      written: isWrittenOn(chosen),
      practice: [chosen.camera, chosen.microphone, chosen.screen, chosen.pen].includes(PRACTICE),
      tracks: voice === 'without' || !heard ? silent : { ...silent, voice: heard },
      countIn: chosen.countIn,
      ...(chosen.ticks ? { onTick: (left: number) => playTick(left === 1) } : {}),
      onTake: (takeId, after) => {
        begun.current(takeId, after);
        setRedo(null);
      },
      onEnded: () => {
        if (!isDark(recorder.view().state)) {
          board.tellTo(null);
          setOver(new LiveBoard(chosen.paper, true));
        }
        void client.invalidateQueries({ queryKey: KEYS.lesson(lesson.id) });
        void client.invalidateQueries({ queryKey: KEYS.lessons });
      },
    });
  };
  // Said again, a take begins long after the press that started the first: with what is true by then.
  const begun = useRef<(takeId: string, after: { takeId: string; untilUs: number } | null) => void>(
    () => undefined,
  );
  useEffect(() => {
    begun.current = (takeId, after) => {
      const film = placedIn(lesson);
      const placeOf = (id: string) => film.find((placed) => placed.takeId === id);
      const place = (at: number | null) => ({
        do: 'place' as const,
        placement: movedTo({ id: takeId, takeId }, film, at),
        arrives: true,
      });
      const before = after ? placeOf(after.takeId) : undefined;
      const replaced = redo ? placeOf(redo.takeId) : undefined;
      if (after && before) {
        // It replaces what followed: the take before ends at the pause, and this one comes next.
        put(
          place(film.indexOf(before) + 1),
          after.untilUs < 500_000
            ? { do: 'exclude-take', placementId: before.id }
            : { do: 'trim', placementId: before.id, startUs: 0, endUs: after.untilUs },
        );
      } else if (replaced) {
        put(place(film.indexOf(replaced)), { do: 'exclude-take', placementId: replaced.id });
      } else {
        put(place(null));
      }
      if (crop !== UNCROPPED && chosen.source === 'screen') put({ do: 'crop', takeId, crop });
      live.begun(takeId);
      if (isWrittenOn(chosen)) written.tellTo((records) => recorder.write(records));
    };
  });

  if (dark) {
    return (
      <Recording
        recorder={recorder}
        live={live}
        stay={stay}
        chosen={chosen}
        choose={choose}
        sources={sources}
        board={written}
        crop={chosen.source === 'screen' ? crop : UNCROPPED}
      />
    );
  }
  if (state.name === 'stopped' || state.name === 'broken') {
    return (
      <LookBack
        recorder={recorder}
        onRedo={(again) => {
          setRedo(again);
          recorder.again();
        }}
        onTidy={() => goTo('tidy')}
        onShareLink={() => goTo('hand-out')}
      />
    );
  }
  return (
    <GetReady
      chosen={chosen}
      choose={(change) => {
        if ('source' in change || 'screen' in change) setCrop(UNCROPPED);
        choose(change);
      }}
      sources={sources}
      board={board}
      crop={crop}
      onCrop={setCrop}
      redo={redo}
      onRedo={setRedo}
      onStart={(voice) => start(chosen.microphone === NONE ? 'without' : voice)}
    />
  );
};
