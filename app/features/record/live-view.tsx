import { useEffect, useRef } from 'react';
import { StyleSheet, View } from 'react-native';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';

const Picture = ({
  stream,
  label,
  small,
}: {
  stream: MediaStream;
  label: string;
  small?: boolean;
}) => {
  const video = useRef<HTMLVideoElement>(null);
  useEffect(() => {
    if (video.current) video.current.srcObject = stream;
  }, [stream]);
  return (
    <video
      ref={video}
      autoPlay
      muted
      playsInline
      aria-label={label}
      style={{
        width: '100%',
        height: '100%',
        objectFit: small ? 'cover' : 'contain',
        display: 'block',
      }}
    />
  );
};

interface Props {
  readonly screen: MediaStream | null;
  readonly camera: MediaStream | null;
  /** Shown where there is no picture. */
  readonly empty: string;
}

/** What will be in the picture, live. */
export const LiveView = ({ screen, camera, empty }: Props) => {
  const theme = useTheme();
  const main = screen ?? camera;
  return (
    <View style={[styles.frame, { backgroundColor: '#20292f' }]}>
      {main ? (
        <Picture stream={main} label={screen ? 'What will be recorded' : 'The camera'} />
      ) : (
        <View style={styles.empty}>
          <Words style={{ color: '#f3eee0', textAlign: 'center' }}>{empty}</Words>
        </View>
      )}
      {screen && camera ? (
        <View style={[styles.inset, { borderColor: theme.chalk }]}>
          <Picture stream={camera} label="The camera" small />
        </View>
      ) : null}
    </View>
  );
};

const styles = StyleSheet.create({
  frame: { width: '100%', aspectRatio: 16 / 9, borderRadius: RADIUS.small, overflow: 'hidden' },
  empty: { flex: 1, alignItems: 'center', justifyContent: 'center', padding: SPACE.large },
  inset: {
    position: 'absolute',
    right: '2.5%',
    bottom: '4%',
    width: '21%',
    aspectRatio: 4 / 3,
    borderRadius: RADIUS.small,
    overflow: 'hidden',
    borderWidth: 1.5,
  },
});
