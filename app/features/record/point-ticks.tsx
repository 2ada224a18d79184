import { StyleSheet, View } from 'react-native';
import Check from 'lucide-react-native/icons/check';
import { namedPage, type NamedPage } from '@under-chalk/core/material/named-page';
import { addressIn, inOrder, nextPoint, type Point, type Tick } from '@under-chalk/core/plan/point';
import { Button } from '../../ui/button';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';

interface Props {
  readonly points: readonly Point[];
  readonly ticks: readonly Tick[];
  readonly canTick: boolean;
  readonly onTick: (pointId: string) => void;
  /** Turns to the page of a material that a point shows. */
  readonly onShow: (page: NamedPage) => void;
  /** What can be turned to. */
  readonly materials: readonly { readonly id: string; readonly name: string }[];
}

/** The running order while recording: what is next, what has been covered. */
export const PointTicks = (props: Props) => {
  const { points, ticks, canTick, onTick, onShow, materials } = props;
  const theme = useTheme();
  if (points.length === 0) return null;
  const done = new Set(ticks.map((tick) => tick.pointId));
  const next = nextPoint(points, ticks);
  return (
    <View style={styles.group}>
      <Heading level={2}>Running order</Heading>
      <View role="list" aria-label="Running order" style={styles.group}>
        {inOrder(points).map((point, index) => {
          const address = addressIn(point.show);
          const page = namedPage(point.show, materials);
          const isNext = point.id === next?.id;
          return (
            <View
              key={point.id}
              role="listitem"
              style={[
                styles.row,
                { borderColor: isNext ? theme.action : theme.line, backgroundColor: theme.card },
              ]}
            >
              <View style={styles.sign} aria-hidden>
                {done.has(point.id) ? <Check size={20} color={theme.good} /> : null}
              </View>
              <View style={styles.words}>
                <Words strong={isNext} tone={done.has(point.id) ? 'soft' : 'ink'}>
                  {`${index + 1}. ${point.text}`}
                </Words>
                <Words size="small" tone="soft">
                  {[
                    done.has(point.id) ? 'covered' : isNext ? 'now' : '',
                    address === null && point.show ? `show: ${point.show}` : '',
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </Words>
              </View>
              {address ? (
                <Button
                  small
                  label="Open"
                  spoken={`Open ${point.show}`}
                  onPress={() => window.open(address, '_blank', 'noopener')}
                />
              ) : null}
              {page ? (
                <Button
                  small
                  label="Show"
                  spoken={`Show ${point.show}`}
                  onPress={() => onShow(page)}
                />
              ) : null}
              {isNext ? (
                <Button
                  small
                  kind="main"
                  label="Tick off"
                  spoken={`Tick off ${point.text}`}
                  disabled={!canTick}
                  onPress={() => onTick(point.id)}
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
