import { StyleSheet, View } from 'react-native';
import { useText } from '../../messages/use-text';
import { Announce } from '../../ui/announce';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import type { Described, HowDescribed, HowTold } from './use-described';

interface NowProps {
  readonly how: HowDescribed;
  readonly described: Described;
}

/** What is seen, while it is told and the film waits for it. */
export const DescribedNow = ({ how, described: { told, goOn } }: NowProps) => {
  const theme = useTheme();
  const { t } = useText();
  return (
    <>
      {how === 'reader' ? <Announce urgent words={told?.text ?? ''} /> : null}
      {told ? (
        <View style={[styles.told, { borderColor: theme.line, backgroundColor: theme.card }]}>
          <Words style={styles.words}>{told.text}</Words>
          <Button small label={t('player.continue')} onPress={goOn} />
        </View>
      ) : null}
    </>
  );
};

/** Whether and how what is seen is told. */
export const DescribedChoice = ({ howTold: { how, voice, choose } }: { howTold: HowTold }) => {
  const { t } = useText();
  return (
    <Choices
      label={t('player.description')}
      choices={[
        { value: 'off', label: t('player.descriptionOff') },
        ...(voice ? [{ value: 'aloud' as const, label: t('player.descriptionAloud') }] : []),
        { value: 'reader', label: t('player.descriptionReader') },
      ]}
      value={how}
      onChoose={choose}
    />
  );
};

const styles = StyleSheet.create({
  told: {
    flexDirection: 'row',
    flexWrap: 'wrap',
    alignItems: 'center',
    gap: SPACE.small,
    marginTop: SPACE.small,
    padding: SPACE.small,
    borderWidth: 1,
    borderRadius: RADIUS.small,
  },
  words: { flexGrow: 1, flexShrink: 1, flexBasis: 200 },
});
