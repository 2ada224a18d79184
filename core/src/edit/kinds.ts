import { addInk } from './kinds/add-ink';
import { setLayout } from './kinds/set-layout';
import { includeTake } from './kinds/include-take';
import { changeInk } from './kinds/change-ink';
import { setCover } from './kinds/set-cover';
import { reduceNoise } from './kinds/reduce-noise';
import { setCloseUp } from './kinds/set-close-up';
import { crop } from './kinds/crop';
import { cut } from './kinds/cut';
import { setCutaway } from './kinds/set-cutaway';
import { setAudioDescription } from './kinds/set-audio-description';
import { setCrossFade } from './kinds/set-cross-fade';
import { setBackground } from './kinds/set-background';
import { setLicence } from './kinds/set-licence';
import { excludeTake } from './kinds/exclude-take';
import { setLevelling } from './kinds/set-levelling';
import { setDucking } from './kinds/set-ducking';
import { setWatermark } from './kinds/set-watermark';
import { markFlub } from './kinds/mark-flub';
import { moveTopic } from './kinds/move-topic';
import { place } from './kinds/place';
import { plan } from './kinds/plan';
import { setTitleCard } from './kinds/set-title-card';
import { setTextOverlay } from './kinds/set-text-overlay';
import { removeTopic } from './kinds/remove-topic';
import { setDefaultLayout } from './kinds/set-default-layout';
import { restore } from './kinds/restore';
import { setGain } from './kinds/set-gain';
import { setInteraction } from './kinds/set-interaction';
import { setTopic } from './kinds/set-topic';
import { setSpeed } from './kinds/set-speed';
import { setFrameShape } from './kinds/set-frame-shape';
import { showCamera } from './kinds/show-camera';
import { showCaptions } from './kinds/show-captions';
import { showPointer } from './kinds/show-pointer';
import { showScreenPointer } from './kinds/show-screen-pointer';
import { mute } from './kinds/mute';
import { setLayoutTransition } from './kinds/set-layout-transition';
import { setLanguage } from './kinds/set-language';
import { setVoiceOver } from './kinds/set-voice-over';
import { markTopicDone } from './kinds/mark-topic-done';
import { trim } from './kinds/trim';
import { unmarkFlub } from './kinds/unmark-flub';
import { markTopicOpen } from './kinds/mark-topic-open';
import { writeCues } from './kinds/write-cues';

/** Every kind of edit. A new one is a file in `kinds/` and a line here; all else is made from this list. */
export const KINDS = [
  plan,
  place,
  excludeTake,
  includeTake,
  trim,
  cut,
  restore,
  setLayout,
  setDefaultLayout,
  setLayoutTransition,
  setCrossFade,
  setFrameShape,
  setBackground,
  setTopic,
  moveTopic,
  removeTopic,
  markTopicDone,
  markTopicOpen,
  markFlub,
  unmarkFlub,
  crop,
  showCamera,
  setCloseUp,
  setCutaway,
  setTextOverlay,
  setTitleCard,
  setSpeed,
  setWatermark,
  setLevelling,
  mute,
  setDucking,
  reduceNoise,
  setGain,
  setVoiceOver,
  addInk,
  changeInk,
  showPointer,
  showScreenPointer,
  writeCues,
  setLanguage,
  showCaptions,
  setAudioDescription,
  setInteraction,
  setCover,
  setLicence,
] as const;
