import type { ReactNode } from 'react';
import { View } from 'react-native';
import { familyOf, stepsToAllow } from '@under-chalk/core/record/permission-help';
import { Button } from '../../ui/button';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';

/** What could not be opened, with what to do in this very browser. */
export const SourceProblem = ({
  code,
  onRetry,
  children,
}: {
  code: string;
  onRetry: () => void;
  /** What else can be done about it. */
  children?: ReactNode;
}) => {
  const device =
    code === 'camera-refused' ? 'camera' : code === 'microphone-refused' ? 'microphone' : null;
  return (
    <ProblemNotice code={code}>
      {device ? (
        <View role="list" style={{ gap: SPACE.hair, width: '100%' }}>
          {stepsToAllow(familyOf(navigator.userAgent), device).map((step, index) => (
            <View key={step} role="listitem">
              <Words size="small">{`${index + 1}. ${step}`}</Words>
            </View>
          ))}
        </View>
      ) : null}
      <Button small label="Try again" onPress={onRetry} />
      {children}
    </ProblemNotice>
  );
};
