import Check from 'lucide-react-native/icons/check';
import CircleAlert from 'lucide-react-native/icons/circle-alert';
import { useRef } from 'react';
import { StyleSheet, View } from 'react-native';
import type { Check as CheckLine, Mend } from '@under-chalk/core/checks/checks';
import type { Us } from '@under-chalk/core/time/us';
import { errorText } from '@under-chalk/core/errors/errors';
import { codeOf } from '../../data/client';
import { useEdits } from '../../data/edits';
import { Button } from '../../ui/button';
import { elementOf } from '../../ui/focus';
import { arrowStep } from '../../ui/mirrored';
import { Words } from '../../ui/text';
import { SPACE, useTheme } from '../../ui/theme';
import { useGoTo } from '../lessons/lesson-layout';
import { useProcessAgain } from '../record/process-again-button';

const VERDICTS = { good: 'Good', look: 'Look again', stop: 'Mend this' } as const;

/** What is chosen in a sheet of its own. */
export type Opened = Extract<Mend, { readonly opens: string }>['opens'];

interface Props {
  readonly checks: readonly CheckLine[];
  /** Shows a place of the film. */
  readonly onLook: (atUs: Us) => void;
  /** Opens where something is chosen. */
  readonly onOpen: (what: Opened) => void;
}

/**
 * What can be told of the film, each line with the place that it is about and a way to mend it. All its buttons are one stop of the
 * Tab key: arrows go from one to the next (WAI-ARIA APG, toolbar).
 */
export const CheckList = ({ checks, onLook, onOpen }: Props) => {
  const theme = useTheme();
  const goTo = useGoTo();
  const { put } = useEdits();
  const processAgain = useProcessAgain('processTake');
  const list = useRef<View>(null);
  const onKeyDown = (event: { key: string; currentTarget: Element; preventDefault(): void }) => {
    const by = arrowStep(event);
    const buttons = [
      ...(elementOf(list.current)?.querySelectorAll<HTMLElement>('[role=button]') ?? []),
    ];
    const at = buttons.indexOf(document.activeElement as HTMLElement);
    if (by === 0 || at < 0) return;
    event.preventDefault();
    buttons[(at + by + buttons.length) % buttons.length]?.focus();
  };
  const doMend = (mend: Mend) => {
    if ('acts' in mend) put(...mend.acts);
    else if ('opens' in mend) onOpen(mend.opens);
    else if ('processTakeId' in mend) processAgain.mutate(mend.processTakeId);
    else goTo(mend.step);
  };
  // What only leads to another step is reached by the steps above as well.
  const isOwn = ({ atUs, mend }: CheckLine) =>
    atUs !== undefined || (mend !== undefined && !('step' in mend));
  const firstOf = checks.findIndex(isOwn);
  return (
    <View
      ref={list}
      role="list"
      aria-label="What can be told beforehand"
      style={styles.checks}
      {...({ onKeyDown } as object)}
    >
      {checks.map(({ id, verdict, sentence, atUs, mend }, index) => {
        const colour = { good: theme.good, look: theme.warn, stop: theme.bad }[verdict];
        const Sign = verdict === 'good' ? Check : CircleAlert;
        return (
          <View key={`${id} ${index}`} role="listitem" style={styles.check}>
            <View style={styles.sign}>
              <Sign size={22} color={colour} strokeWidth={2.5} />
            </View>
            <View style={styles.said}>
              <Words>
                <Words strong style={{ color: colour }}>
                  {`${VERDICTS[verdict]}. `}
                </Words>
                {sentence}
              </Words>
              {atUs !== undefined || mend ? (
                <View style={styles.does}>
                  {atUs === undefined ? null : (
                    <Button
                      small
                      label="Look at the place"
                      spoken={`Look at the place: ${sentence}`}
                      skipped={index !== firstOf}
                      onPress={() => onLook(atUs)}
                    />
                  )}
                  {mend ? (
                    <Button
                      small
                      label={mend.words}
                      spoken={`${mend.words}: ${sentence}`}
                      skipped={index !== firstOf || atUs !== undefined}
                      onPress={() => doMend(mend)}
                    />
                  ) : null}
                </View>
              ) : null}
              {id === 'incomplete' && processAgain.error ? (
                <Words size="small" tone="bad" role="status">
                  {errorText(codeOf(processAgain.error)).message}
                </Words>
              ) : null}
            </View>
          </View>
        );
      })}
    </View>
  );
};

const styles = StyleSheet.create({
  checks: { gap: SPACE.medium },
  check: { flexDirection: 'row', gap: SPACE.small },
  sign: { paddingTop: 1 },
  said: { flexShrink: 1, flexGrow: 1, gap: SPACE.hair },
  does: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
