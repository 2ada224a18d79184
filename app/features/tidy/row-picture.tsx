import { useEffect, useState } from 'react';
import { Image, StyleSheet, View } from 'react-native';
import { sameStill } from '../../data/still-looks';
import { InView } from '../../ui/in-view';
import { RADIUS, useTheme } from '../../ui/theme';

interface Props {
  readonly uri: string;
  /** The still of the phrase before; null where there is none, or this one is to be seen in any case. */
  readonly before: string | null;
}

/** The picture of a phrase, where it is another than that of the phrase before; else a line that goes on from it. */
export const RowPicture = ({ uri, before }: Props) => (
  <InView style={styles.picture}>
    <Picture key={`${uri} ${before}`} {...{ uri, before }} />
  </InView>
);

const Picture = ({ uri, before }: Props) => {
  const theme = useTheme();
  const [same, setSame] = useState(false);
  useEffect(() => {
    if (before === null) return undefined;
    let over = false;
    void sameStill(before, uri).then((isSame) => {
      if (!over) setSame(isSame);
    });
    return () => {
      over = true;
    };
  }, [uri, before]);
  if (same) {
    return <View testID="same-picture" style={[styles.goesOn, { backgroundColor: theme.line }]} />;
  }
  return <Image source={{ uri }} style={[styles.fill, { backgroundColor: theme.line }]} alt="" />;
};

const styles = StyleSheet.create({
  picture: { width: 84, aspectRatio: 16 / 9, borderRadius: RADIUS.small, overflow: 'hidden' },
  fill: { width: '100%', height: '100%' },
  goesOn: { width: 3, height: '100%', alignSelf: 'center' },
});
