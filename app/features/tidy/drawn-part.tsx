import { Image, StyleSheet, View } from 'react-native';
import type { Crop } from '@under-chalk/core/lesson/crop';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { pictureTrackOf, type Take } from '@under-chalk/core/lesson/take';
import type { Us } from '@under-chalk/core/time/us';
import { DrawnCrop } from '../../ui/over-picture';
import { RADIUS } from '../../ui/theme';
import { stillPath } from '../lessons/still-path';

interface Props {
  readonly lesson: Lesson;
  readonly take: Take;
  /** Which moment of the take is shown. */
  readonly atUs: Us;
  readonly alt: string;
  /** Of what: its surface, or the camera where it has none; or the camera in any case. */
  readonly of?: 'surface' | 'camera';
  readonly part: Crop;
  readonly onPart: (part: Crop) => void;
}

/** All of a take's surface (or of its camera's picture, where it has none), and a part of it that is drawn. */
export const DrawnPart = ({ lesson, take, atUs, alt, of = 'surface', part, onPart }: Props) => {
  const track = pictureTrackOf(take, of);
  const aspect = track && track.heightPx > 0 ? track.widthPx / track.heightPx : 16 / 9;
  return (
    <View style={[styles.picture, { aspectRatio: aspect }]}>
      <Image
        source={{ uri: stillPath(lesson, take, atUs, 'large', of) }}
        style={styles.fill}
        alt={alt}
      />
      <DrawnCrop crop={part} onCrop={onPart} />
    </View>
  );
};

const styles = StyleSheet.create({
  picture: { width: '100%', borderRadius: RADIUS.small, overflow: 'hidden' },
  fill: { width: '100%', height: '100%' },
});
