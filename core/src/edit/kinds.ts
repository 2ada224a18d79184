import { addInk } from './kinds/add-ink';
import { setLayout } from './kinds/set-layout';
import { bringIn } from './kinds/bring-in';
import { changeInk } from './kinds/change-ink';
import { chooseCover } from './kinds/choose-cover';
import { cleanSound } from './kinds/clean-sound';
import { comeCloser } from './kinds/come-closer';
import { crop } from './kinds/crop';
import { cut } from './kinds/cut';
import { cutAway } from './kinds/cut-away';
import { describe } from './kinds/describe';
import { dissolve } from './kinds/dissolve';
import { dressFrame } from './kinds/dress-frame';
import { giveLicence } from './kinds/give-licence';
import { leaveOut } from './kinds/leave-out';
import { levelSound } from './kinds/level-sound';
import { lowerUnderVoice } from './kinds/lower-under-voice';
import { markFilm } from './kinds/mark-film';
import { markFlub } from './kinds/mark-flub';
import { movePoint } from './kinds/move-point';
import { place } from './kinds/place';
import { plan } from './kinds/plan';
import { putCard } from './kinds/put-card';
import { putLine } from './kinds/put-line';
import { removePoint } from './kinds/remove-point';
import { setDefaultLayout } from './kinds/set-default-layout';
import { restore } from './kinds/restore';
import { setLevel } from './kinds/set-level';
import { setMoment } from './kinds/set-moment';
import { setPoint } from './kinds/set-point';
import { setSpeed } from './kinds/set-speed';
import { shapeFrame } from './kinds/shape-frame';
import { showCamera } from './kinds/show-camera';
import { showCaptions } from './kinds/show-captions';
import { showPointer } from './kinds/show-pointer';
import { showScreenPointer } from './kinds/show-screen-pointer';
import { silence } from './kinds/silence';
import { soften } from './kinds/soften';
import { speak } from './kinds/speak';
import { speakOver } from './kinds/speak-over';
import { tickPoint } from './kinds/tick-point';
import { trim } from './kinds/trim';
import { unmarkFlub } from './kinds/unmark-flub';
import { untickPoint } from './kinds/untick-point';
import { writeCues } from './kinds/write-cues';

/** Every kind of edit. A new one is a file in `kinds/` and a line here; all else is made from this list. */
export const KINDS = [
  plan,
  place,
  leaveOut,
  bringIn,
  trim,
  cut,
  restore,
  setLayout,
  setDefaultLayout,
  soften,
  dissolve,
  shapeFrame,
  dressFrame,
  setPoint,
  movePoint,
  removePoint,
  tickPoint,
  untickPoint,
  markFlub,
  unmarkFlub,
  crop,
  showCamera,
  comeCloser,
  cutAway,
  putLine,
  putCard,
  setSpeed,
  markFilm,
  levelSound,
  silence,
  lowerUnderVoice,
  cleanSound,
  setLevel,
  speakOver,
  addInk,
  changeInk,
  showPointer,
  showScreenPointer,
  writeCues,
  speak,
  showCaptions,
  describe,
  setMoment,
  chooseCover,
  giveLicence,
] as const;
