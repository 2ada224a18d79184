import { StyleSheet, View } from 'react-native';
import Check from 'lucide-react-native/icons/check';
import { namedPage, type NamedPage } from '@under-chalk/core/material/named-page';
import {
  addressIn,
  inOrder,
  nextTopic,
  type Topic,
  type TopicDone,
} from '@under-chalk/core/plan/topic';
import { Button } from '../../ui/button';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';

interface Props {
  readonly topics: readonly Topic[];
  readonly topicsDone: readonly TopicDone[];
  readonly canTick: boolean;
  readonly onTick: (topicId: string) => void;
  /** Turns to the page of a material that a topic shows. */
  readonly onShow: (page: NamedPage) => void;
  /** What can be turned to. */
  readonly materials: readonly { readonly id: string; readonly name: string }[];
}

/** The outline while recording: what is next, what has been covered. */
export const OutlineProgress = (props: Props) => {
  const { topics, topicsDone, canTick, onTick, onShow, materials } = props;
  const theme = useTheme();
  if (topics.length === 0) return null;
  const done = new Set(topicsDone.map((tick) => tick.topicId));
  const next = nextTopic(topics, topicsDone);
  return (
    <View style={styles.group}>
      <Heading level={2}>Outline</Heading>
      <View role="list" aria-label="Outline" style={styles.group}>
        {inOrder(topics).map((topic, index) => {
          const address = addressIn(topic.show);
          const page = namedPage(topic.show, materials);
          const isNext = topic.id === next?.id;
          return (
            <View
              key={topic.id}
              role="listitem"
              style={[
                styles.row,
                { borderColor: isNext ? theme.action : theme.line, backgroundColor: theme.card },
              ]}
            >
              <View style={styles.sign} aria-hidden>
                {done.has(topic.id) ? <Check size={20} color={theme.good} /> : null}
              </View>
              <View style={styles.words}>
                <Words strong={isNext} tone={done.has(topic.id) ? 'soft' : 'ink'}>
                  {`${index + 1}. ${topic.text}`}
                </Words>
                <Words size="small" tone="soft">
                  {[
                    done.has(topic.id) ? 'covered' : isNext ? 'now' : '',
                    address === null && topic.show ? `show: ${topic.show}` : '',
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </Words>
              </View>
              {address ? (
                <Button
                  small
                  label="Open"
                  spoken={`Open ${topic.show}`}
                  onPress={() => window.open(address, '_blank', 'noopener')}
                />
              ) : null}
              {page ? (
                <Button
                  small
                  label="Show"
                  spoken={`Show ${topic.show}`}
                  onPress={() => onShow(page)}
                />
              ) : null}
              {isNext ? (
                <Button
                  small
                  kind="main"
                  label="Mark done"
                  spoken={`Mark done: ${topic.text}`}
                  disabled={!canTick}
                  onPress={() => onTick(topic.id)}
                />
              ) : null}
            </View>
          );
        })}
      </View>
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  row: {
    flexDirection: 'row',
    alignItems: 'center',
    gap: SPACE.small,
    borderWidth: 1.5,
    borderRadius: RADIUS.medium,
    padding: SPACE.small,
  },
  sign: { width: 22 },
  words: { flexGrow: 1, flexShrink: 1 },
});
