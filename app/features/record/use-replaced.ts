import { useEffect, useRef } from 'react';
import type { TrackKind } from '@under-chalk/core/lesson/take';
import type { Recorder } from '../../capture/recorder';
import type { Sources } from './use-sources';

/**
 * What is opened while it records (another surface, another microphone in place of one that is gone) takes
 * the place of what was recorded before, in the same take.
 */
export const useReplaced = (recorder: Recorder, recording: boolean, sources: Sources): void => {
  useReplacedStream(recorder, recording, sources.screen, 'surface', 'computer-sound');
  useReplacedStream(recorder, recording, sources.camera, 'camera', null);
  useReplacedStream(recorder, recording, sources.voice, null, 'voice');
};

const useReplacedStream = (
  recorder: Recorder,
  recording: boolean,
  stream: MediaStream | null,
  picture: TrackKind | null,
  sound: TrackKind | null,
) => {
  const before = useRef<MediaStream | null>(null);
  useEffect(() => {
    if (recording && stream && before.current !== stream) {
      const [pictureTrack] = stream.getVideoTracks();
      const [soundTrack] = stream.getAudioTracks();
      if (picture && pictureTrack) recorder.replace(picture, pictureTrack);
      if (sound && soundTrack) recorder.replace(sound, soundTrack);
    }
    if (stream || !recording) before.current = stream;
  }, [recorder, recording, stream, picture, sound]);
};
