import { useCallback, useEffect, useRef, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { RECORDED_MS } from '@under-chalk/core/submission/submission';
import { FLOOR_DBFS } from '@under-chalk/core/sound/level';
import { formatClock } from '@under-chalk/core/time/us';
import { problemWith } from '../../../capture/devices';
import { watchLevel } from '../../../capture/level-of-stream';
import { useText } from '../../../messages/use-text';
import { Button } from '../../../ui/button';
import { useFocusWhen } from '../../../ui/focus';
import { ProblemNotice } from '../../../ui/notice';
import { Words } from '../../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../../ui/theme';

/** Forms that browsers record in, the one that most read first. */
const FORMS = {
  voice: ['audio/webm;codecs=opus', 'audio/mp4', 'audio/webm'],
  camera: ['video/webm;codecs=vp8,opus', 'video/mp4', 'video/webm'],
} as const;
const CAMERA_BITS = 1_000_000;
const TICK_MS = 200;
/** A voice that never comes above this wasn't heard, dBFS: a room alone has less. */
const HEARD_DBFS = -50;
/** The quietest that the bar shows, dBFS. */
const BAR_DBFS = -60;

type By = keyof typeof FORMS;

interface Props {
  readonly by: By;
  /** What was recorded is to be kept. */
  readonly onKeep: (bytes: Blob) => void;
  readonly onClose: () => void;
}

type State =
  | { readonly is: 'asking' }
  | { readonly is: 'failed'; readonly code: string }
  | { readonly is: 'ready' | 'recording'; readonly stream: MediaStream }
  | {
      readonly is: 'done';
      readonly bytes: Blob;
      readonly address: string;
      readonly heard: boolean;
    };

const opened = async (by: By): Promise<MediaStream | string> => {
  if (!('mediaDevices' in navigator) || !('MediaRecorder' in window))
    return 'recording-unsupported';
  try {
    return await navigator.mediaDevices.getUserMedia({
      audio: true,
      video: by === 'camera' && { width: { ideal: 640 }, height: { ideal: 480 } },
    });
  } catch (error) {
    return problemWith(by === 'camera' ? 'camera' : 'microphone', error);
  }
};

/** Half a minute of voice, or of camera and voice: heard before it is kept, and as often again as one likes. */
export const HalfMinute = ({ by, onKeep, onClose }: Props) => {
  const theme = useTheme();
  const { t } = useText();
  const [state, setState] = useState<State>({ is: 'asking' });
  const [turn, setTurn] = useState(0);
  const [spentMs, setSpent] = useState(0);
  const [levelDbfs, setLevel] = useState(FLOOR_DBFS);
  const loudest = useRef(FLOOR_DBFS);
  const recorder = useRef<MediaRecorder | null>(null);
  const group = useFocusWhen(true);

  // The devices are open for as long as this is.
  useEffect(() => {
    let stream: MediaStream | null = null;
    let unwatch: (() => void) | null = null;
    let over = false;
    void opened(by).then((found) => {
      if (typeof found === 'string') {
        if (!over) setState({ is: 'failed', code: found });
        return;
      }
      if (over) return found.getTracks().forEach((track) => track.stop());
      stream = found;
      unwatch = watchLevel(found, ({ now }) => {
        loudest.current = Math.max(loudest.current, now.peakDbfs);
        setLevel(now.rmsDbfs);
      });
      setState({ is: 'ready', stream: found });
    });
    return () => {
      over = true;
      unwatch?.();
      if (recorder.current?.state === 'recording') recorder.current.stop();
      stream?.getTracks().forEach((track) => track.stop());
    };
  }, [by, turn]);

  const address = state.is === 'done' ? state.address : null;
  useEffect(() => {
    if (address) return () => URL.revokeObjectURL(address);
    return undefined;
  }, [address]);

  const stop = useCallback(() => {
    if (recorder.current?.state === 'recording') recorder.current.stop();
  }, []);
  const record = (stream: MediaStream) => {
    const form = FORMS[by].find((one) => MediaRecorder.isTypeSupported(one));
    const made = new MediaRecorder(stream, {
      ...(form ? { mimeType: form } : {}),
      ...(by === 'camera' ? { videoBitsPerSecond: CAMERA_BITS } : {}),
    });
    const parts: Blob[] = [];
    const began = performance.now();
    loudest.current = FLOOR_DBFS;
    made.ondataavailable = ({ data }) => void parts.push(data);
    const timer = setInterval(() => {
      const spent = performance.now() - began;
      setSpent(Math.min(RECORDED_MS, spent));
      if (spent >= RECORDED_MS) stop();
    }, TICK_MS);
    made.onstop = () => {
      clearInterval(timer);
      const bytes = new Blob(parts, { type: made.mimeType });
      const heard = loudest.current >= HEARD_DBFS;
      setState({ is: 'done', bytes, address: URL.createObjectURL(bytes), heard });
      stream.getTracks().forEach((track) => track.stop());
    };
    recorder.current = made;
    setSpent(0);
    made.start();
    setState({ is: 'recording', stream });
  };
  const again = () => {
    setState({ is: 'asking' });
    setTurn(turn + 1);
  };

  const isOpen = state.is === 'ready' || state.is === 'recording';
  const filled = Math.max(0, Math.min(1, (levelDbfs - BAR_DBFS) / -BAR_DBFS));
  return (
    <View
      ref={group}
      role="group"
      aria-label={t(by === 'voice' ? 'submission.voiceRecording' : 'submission.cameraRecording')}
      {...({ tabIndex: -1 } as object)}
      style={[styles.group, { borderColor: theme.line }]}
    >
      {state.is === 'failed' ? (
        <ProblemNotice code={state.code}>
          <Button small label={t('common.tryAgain')} onPress={again} />
        </ProblemNotice>
      ) : null}
      {isOpen && by === 'camera' ? <LivePicture stream={state.stream} /> : null}
      {state.is === 'done' && by === 'camera' ? (
        <video
          src={state.address}
          controls
          playsInline
          style={PICTURE}
          aria-label={t('submission.yourRecording')}
        />
      ) : null}
      {state.is === 'done' && by === 'voice' ? (
        <audio
          src={state.address}
          controls
          style={SOUND}
          aria-label={t('submission.yourRecording')}
        />
      ) : null}
      {isOpen ? (
        <View
          style={[styles.track, { backgroundColor: theme.line }]}
          role="meter"
          aria-label={t('submission.level')}
          aria-valuenow={Math.round(filled * 100)}
        >
          <View
            style={[
              styles.level,
              { backgroundColor: theme.action, width: `${Math.round(filled * 100)}%` },
            ]}
          />
        </View>
      ) : null}
      <Words
        size="small"
        role="status"
        tone={state.is === 'done' && !state.heard ? 'warn' : 'soft'}
      >
        {state.is === 'asking'
          ? t('submission.asking')
          : state.is === 'ready'
            ? t('submission.ready')
            : state.is === 'recording'
              ? t('submission.recording')
              : state.is === 'done'
                ? state.heard
                  ? t('submission.recorded')
                  : t('submission.silent')
                : ''}
      </Words>
      <View style={styles.line}>
        {state.is === 'ready' ? (
          <Button
            small
            kind="main"
            label={t('submission.record')}
            onPress={() => record(state.stream)}
          />
        ) : null}
        {state.is === 'recording' ? (
          <>
            <Button small kind="main" label={t('submission.stop')} onPress={stop} />
            <Words strong>
              {t('submission.elapsed', {
                spent: formatClock(spentMs * 1000),
                most: formatClock(RECORDED_MS * 1000),
              })}
            </Words>
          </>
        ) : null}
        {state.is === 'done' ? (
          <>
            <Button
              small
              kind="main"
              label={t('submission.use')}
              onPress={() => onKeep(state.bytes)}
            />
            <Button small label={t('submission.recordAgain')} onPress={again} />
          </>
        ) : null}
        <Button small kind="bare" label={t('submission.cancel')} onPress={onClose} />
      </View>
    </View>
  );
};

/** As in a mirror: so one expects to see oneself. */
const LivePicture = ({ stream }: { stream: MediaStream }) => {
  const video = useRef<HTMLVideoElement>(null);
  const { t } = useText();
  useEffect(() => {
    if (video.current) video.current.srcObject = stream;
  }, [stream]);
  return (
    <video
      ref={video}
      autoPlay
      muted
      playsInline
      aria-label={t('submission.yourCamera')}
      style={{ ...PICTURE, transform: 'scaleX(-1)' }}
    />
  );
};

const PICTURE = { width: '100%', maxWidth: 320, borderRadius: RADIUS.small } as const;
const SOUND = { width: '100%', maxWidth: 420 } as const;

const styles = StyleSheet.create({
  group: {
    gap: SPACE.small,
    padding: SPACE.small,
    borderWidth: 1,
    borderRadius: RADIUS.small,
  },
  track: { height: 10, borderRadius: 5, overflow: 'hidden', maxWidth: 420 },
  level: { height: 10 },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'center' },
});
