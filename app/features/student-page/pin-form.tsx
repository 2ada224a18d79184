import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { pinSchema } from '@under-chalk/core/contract/student-pages';
import { codeOf } from '../../data/fetch';
import { useText } from '../../messages/use-text';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { useGivePin } from './student-page-data';

/** Asks for the PIN of a student's page: who only has the address isn't let in. */
export const PinForm = ({ pageKey }: { pageKey: string }) => {
  const { t } = useText();
  const [typed, setTyped] = useState('');
  const give = useGivePin(pageKey);
  const pin = typed.replaceAll(/\D/g, '');
  const tell = () => {
    if (pinSchema.safeParse(pin).success && !give.isPending) give.mutate(pin);
  };
  return (
    <View style={styles.group}>
      <Words>{t('studentPage.pinNeeded')}</Words>
      <Field
        label={t('studentPage.pin')}
        value={typed}
        onChangeText={setTyped}
        onSubmitEditing={tell}
        inputMode="numeric"
        autoComplete="off"
        maxLength={12}
        autoFocus
      />
      {give.error ? <ProblemNotice code={codeOf(give.error)} /> : null}
      <View style={styles.line}>
        <Button
          kind="main"
          label={t('studentPage.open')}
          disabled={pin.length !== 6 || give.isPending}
          onPress={tell}
        />
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.medium },
  line: { flexDirection: 'row' },
});
