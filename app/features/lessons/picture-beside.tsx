import { useState, type ReactNode } from 'react';
import { StyleSheet, View } from 'react-native';
import { useLayout } from '../../ui/layout';
import { useScrollPadding } from '../../ui/screen';
import { Heading } from '../../ui/text';
import { SPACE, TYPE, useTheme } from '../../ui/theme';

interface Props {
  readonly title: string;
  readonly picture: ReactNode;
  /** What is worked on; told how high what stays above it is, px. */
  readonly column: (covered: number) => ReactNode;
  /** Share of the height that the picture may take above the column and stay there. */
  readonly mostShare: number;
  /** Width of the picture beside the column, in widths of that. */
  readonly wide: number;
}

/**
 * The picture beside a column, or above it where there is no room beside. It stays in sight where it fits, and scrolls away
 * where it would cover what is to be worked on.
 */
export const PictureBeside = ({ title, picture, column, mostShare, wide }: Props) => {
  const theme = useTheme();
  const { beside, low, height } = useLayout();
  const [pictureHeight, setPictureHeight] = useState(0);
  const stays = beside ? pictureHeight < height : pictureHeight <= height * mostShare;
  const covered = stays && !beside ? pictureHeight : 0;
  useScrollPadding(covered);
  const heading = (
    <Heading level={1} style={styles.title}>
      {title}
    </Heading>
  );
  return (
    <View style={beside ? styles.beside : styles.stack}>
      {beside ? null : heading}
      <View
        onLayout={({ nativeEvent }) => setPictureHeight(nativeEvent.layout.height)}
        style={[
          beside ? [styles.pictureBeside, { flex: wide }] : styles.pictureAbove,
          stays ? sticky : null,
          { backgroundColor: theme.paper },
        ]}
      >
        {beside && !low ? heading : null}
        {picture}
      </View>
      <View style={[beside ? styles.column : null, styles.stack]}>
        {beside && low ? heading : null}
        {column(covered)}
      </View>
    </View>
  );
};

const sticky = { position: 'sticky', top: 0, zIndex: 2 } as object;

const styles = StyleSheet.create({
  stack: { gap: SPACE.large },
  title: { fontSize: TYPE.large, lineHeight: 26 },
  beside: { flexDirection: 'row', gap: SPACE.wide, alignItems: 'flex-start' },
  pictureBeside: { gap: SPACE.small },
  pictureAbove: { gap: SPACE.hair, paddingBottom: SPACE.small },
  column: { flex: 1 },
});
