import { StyleSheet, View } from 'react-native';
import type { ClassMail } from '@under-chalk/core/class/class';
import type { ClassView } from '@under-chalk/core/contract/classes';
import { LANGUAGES, type Language } from '@under-chalk/core/text/student-languages';
import { codeOf } from '../../data/client';
import { useSetClass } from '../../data/queries';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { useFocusWhen } from '../../ui/focus';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';

/** The time zone of this device (IANA). */
export const ownTimeZone = (): string => new Intl.DateTimeFormat().resolvedOptions().timeZone;

/** How e-mails to a new class are written. */
export const newClassMail = (): ClassMail => ({ language: 'en', timeZone: ownTimeZone() });

/** Language and time zone of the e-mails to a class. */
export const ClassMailSettings = ({ view, onDone }: { view: ClassView; onDone: () => void }) => {
  const set = useSetClass();
  const mail = view.mail ?? newClassMail();
  const change = (changed: Partial<ClassMail>) =>
    set.mutate({ ...view, mail: { ...mail, ...changed } });
  const here = ownTimeZone();
  const group = useFocusWhen(true);
  return (
    <View
      ref={group}
      role="group"
      aria-label="E-mails to the class"
      tabIndex={-1}
      style={styles.group}
    >
      <Choices
        label="Language of e-mails"
        choices={Object.entries(LANGUAGES).map(([value, label]) => ({
          value: value as Language,
          label,
          lang: value,
        }))}
        value={mail.language}
        onChoose={(language) => change({ language })}
      />
      <Words>{`Time zone of e-mails: ${mail.timeZone.replaceAll('_', ' ')}`}</Words>
      <View style={styles.buttons}>
        {mail.timeZone === here ? null : (
          <Button
            small
            label={`Use ${here.replaceAll('_', ' ')}`}
            spoken={`Use the time zone of this device, ${here.replaceAll('_', ' ')}`}
            disabled={set.isPending}
            onPress={() => change({ timeZone: here })}
          />
        )}
        <Button small label="Done" spoken="Done with e-mail settings" onPress={onDone} />
      </View>
      {set.error ? <ProblemNotice code={codeOf(set.error)} /> : null}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
