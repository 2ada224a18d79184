import { useEffect, type RefObject } from 'react';
import { StyleSheet, View } from 'react-native';
import * as z from 'zod';
import { languageName } from '@under-chalk/core/words/language';
import { useSetting } from '../../data/kept-setting';
import { useText, type MessageId } from '../../messages/use-text';
import { Choices } from '../../ui/choices';
import { SPACE } from '../../ui/theme';
import { wordsFilePath } from './watch-data';

/** Sizes of captions, as shares of what is usual. */
const SIZES = { usual: 1, larger: 1.4, largest: 1.9 } as const;
type Size = keyof typeof SIZES;
const SIZE_NAMES: Record<Size, MessageId> = {
  usual: 'player.sizeUsual',
  larger: 'player.sizeLarger',
  largest: 'player.sizeLargest',
};

const settingSchema = z.object({
  /** Null: none are shown. */
  language: z.string().nullable(),
  size: z.enum(['usual', 'larger', 'largest']),
});

export interface CaptionsShown {
  readonly language: string | null;
  readonly size: Size;
  readonly choose: (language: string | null) => void;
  readonly resize: (size: Size) => void;
  /** Switches them on, in the language that was shown last or the one that is spoken; or off. */
  readonly toggle: () => void;
}

const OFF = 'off';

/** Which captions a student has shown, and how large: remembered for every film. */
export const useCaptionsShown = (languages: readonly string[]): CaptionsShown => {
  const [kept, keep] = useSetting('captions', settingSchema, { language: null, size: 'usual' });
  const language =
    kept.language !== null && languages.includes(kept.language) ? kept.language : null;
  return {
    language,
    size: kept.size,
    choose: (chosen) => keep({ ...kept, language: chosen }),
    resize: (size) => keep({ ...kept, size }),
    toggle: () => keep({ ...kept, language: language === null ? (languages[0] ?? null) : null }),
  };
};

interface TracksProps {
  readonly video: RefObject<HTMLVideoElement | null>;
  readonly token: string;
  readonly languages: readonly string[];
  readonly shown: CaptionsShown;
}

/** Browsers take a twentieth of the picture's height, which on a phone nobody can read. */
const cueStyle = (size: Size): string =>
  `video::cue { font-size: calc(${SIZES[size]} * clamp(15px, 2.6vw, 40px)); background: rgba(20, 28, 33, 0.82); }`;

/** Shows the captions in a language; null: none. */
const showOnly = (film: HTMLVideoElement | null, language: string | null): void => {
  for (const track of film?.textTracks ?? []) {
    track.mode = track.language === language ? 'showing' : 'disabled';
  }
};

/** The captions of a film as tracks of its video, to stand in it. */
export const CaptionTracks = ({ video, token, languages, shown }: TracksProps) => {
  const { language, size } = shown;
  useEffect(() => {
    const film = video.current;
    const show = () => showOnly(film, language);
    show();
    // Browsers choose by themselves when tracks have come, or the film has (HTML, automatic text track selection): ours is what counts.
    const [tracks, moments] = [film?.textTracks, ['loadedmetadata', 'loadeddata'] as const];
    tracks?.addEventListener('addtrack', show);
    for (const moment of moments) film?.addEventListener(moment, show);
    return () => {
      tracks?.removeEventListener('addtrack', show);
      for (const moment of moments) film?.removeEventListener(moment, show);
    };
  }, [video, language, languages]);
  return (
    <>
      {languages.map((one) => (
        <track
          key={one}
          kind="captions"
          srcLang={one}
          label={languageName(one, one)}
          src={wordsFilePath(token, one, 'vtt')}
        />
      ))}
      <style>{cueStyle(size)}</style>
    </>
  );
};

/** Which captions are shown, and how large. */
export const CaptionsChoice = ({
  languages,
  shown,
}: {
  languages: readonly string[];
  shown: CaptionsShown;
}) => {
  const { t } = useText();
  return (
    <View style={styles.choice}>
      <Choices
        label={t('player.captions')}
        choices={[
          { value: OFF, label: t('player.captionsOff') },
          ...languages.map((value) => ({ value, label: languageName(value, value) })),
        ]}
        value={shown.language ?? OFF}
        onChoose={(value) => shown.choose(value === OFF ? null : value)}
      />
      {shown.language === null ? null : (
        <Choices
          label={t('player.captionSize')}
          choices={(Object.keys(SIZES) as Size[]).map((value) => ({
            value,
            label: t(SIZE_NAMES[value]),
          }))}
          value={shown.size}
          onChoose={shown.resize}
        />
      )}
    </View>
  );
};

const styles = StyleSheet.create({
  choice: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.medium, maxWidth: '100%' },
});
