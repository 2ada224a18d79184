import type { ReactNode } from 'react';
import { StyleSheet, View } from 'react-native';
import { calledName, type ClassMaterial } from '@under-chalk/core/material/material';
import { pictureAddress } from '../../data/page-pictures';
import { Button } from '../../ui/button';
import { Words } from '../../ui/text';
import { SPACE, useTheme } from '../../ui/theme';
import { pagesInWords } from './pages-in-words';

interface Props {
  readonly kept: ClassMaterial;
  /** Where it is from, where that is of interest. */
  readonly from?: string;
  readonly onBring: () => void;
  /** What else can be done with it. */
  readonly children?: ReactNode;
}

/** Something that is kept elsewhere, and can be brought into this lesson. */
export const KeptRow = ({ kept: { name, content, pages }, from, onBring, children }: Props) => {
  const theme = useTheme();
  return (
    <View role="listitem" style={[styles.row, { borderColor: theme.line }]}>
      <img src={pictureAddress({ content, page: 0 }, 480)} alt="" loading="lazy" style={THUMB} />
      <View style={styles.words}>
        <Words strong>{calledName(name)}</Words>
        <Words size="small" tone="soft">
          {from ? `${pagesInWords(pages)} · ${from}` : pagesInWords(pages)}
        </Words>
      </View>
      <View style={styles.buttons}>
        <Button small label="Bring in" spoken={`Bring ${calledName(name)} in`} onPress={onBring} />
        {children}
      </View>
    </View>
  );
};

const THUMB = { width: 72, height: 48, objectFit: 'contain', backgroundColor: '#fff' } as const;

const styles = StyleSheet.create({
  row: {
    flexDirection: 'row',
    alignItems: 'center',
    flexWrap: 'wrap',
    gap: SPACE.small,
    borderBottomWidth: 1,
    paddingBottom: SPACE.small,
  },
  words: { flexGrow: 1, flexShrink: 1, flexBasis: 120, minWidth: 0 },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
