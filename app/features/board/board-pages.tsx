import { useEffect, useRef } from 'react';
import { Pressable, StyleSheet, View } from 'react-native';
import { strokesInWords, wordsOn } from '@under-chalk/core/ink/in-words';
import { WHOLE_VIEW } from '@under-chalk/core/ink/ink-track';
import { PAGE_ASPECT } from '@under-chalk/core/ink/page';
import { placeOnPage } from '@under-chalk/core/material/page-place';
import { WHOLE } from '@under-chalk/core/scene/geometry';
import { paintPage, type Context2D } from '@under-chalk/paint';
import { usePart } from '../../data/live-value';
import { pagePictures } from '../../data/page-pictures';
import { Button } from '../../ui/button';
import { InView } from '../../ui/in-view';
import { Sheet } from '../../ui/sheet';
import { Heading, Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import type { LiveBoard } from './live-board';
import { acrossView, MIDDLE, zoomedAt } from './page-view';
import { usePageWords } from './page-words';

const WIDTH_PX = 480;

/** A page as it is now, small. */
const PagePicture = ({ board, index }: { board: LiveBoard; index: number }) => {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    const { width, height } = context.canvas;
    const box = { x: 0, y: 0, width, height };
    const page = { ...board.pageOf(index), view: WHOLE_VIEW };
    const paint = () =>
      paintPage(
        context as unknown as Context2D<CanvasImageSource>,
        page,
        WHOLE,
        box,
        pagePictures.of,
      );
    paint();
    return page.of ? pagePictures.onCome(paint) : undefined;
  }, [board, index]);
  return (
    <canvas
      ref={canvas}
      width={WIDTH_PX}
      height={WIDTH_PX / PAGE_ASPECT}
      style={{ width: '100%', display: 'block' }}
    />
  );
};

interface Props {
  readonly board: LiveBoard;
  readonly onClose: () => void;
}

/** All pages at a glance, to jump to; and how near the one that is shown is seen. */
export const BoardPages = ({ board, onClose }: Props) => {
  const theme = useTheme();
  const page = usePart(board, (view) => view.page);
  const pages = usePart(board, (view) => view.pages);
  const zoom = usePart(board, (view) => view.part.zoom);
  const material = usePageWords(board);
  const lying = board.material();
  const nearer = (times: number) => board.show(zoomedAt(board.view().part, times, MIDDLE));
  return (
    <Sheet title="Pages" open onClose={onClose}>
      <View style={styles.pages}>
        {Array.from({ length: pages }, (_, index) => {
          const shown = board.pageOf(index);
          const words = wordsOn(shown);
          const count = strokesInWords(shown.strokes.length);
          return (
            <Pressable
              key={index}
              role="button"
              aria-label={`Page ${index + 1}, ${count}${words ? `; it says: ${words}` : ''}${index === page ? ', shown now' : ''}`}
              onPress={() => {
                board.turnTo(index);
                onClose();
              }}
              style={[styles.page, { borderColor: index === page ? theme.action : theme.line }]}
            >
              <View style={styles.picture}>
                <InView>
                  <PagePicture board={board} index={index} />
                </InView>
              </View>
              <Words size="small" strong={index === page} style={styles.number}>
                {index === page ? `${index + 1}, shown now` : `${index + 1}`}
              </Words>
            </Pressable>
          );
        })}
      </View>
      <View style={styles.line}>
        <Button small grow label="Closer" onPress={() => nearer(1.5)} />
        <Button small grow label="More room" onPress={() => nearer(1 / 1.5)} />
        <Button
          small
          grow
          label="Whole page"
          disabled={zoom === 1}
          onPress={() => board.show(WHOLE_VIEW)}
        />
        {lying && placeOnPage(lying.of).width < 1 ? (
          <Button
            small
            grow
            label="Fill the width"
            onPress={() => board.show(acrossView(lying.of))}
          />
        ) : null}
      </View>
      <View style={styles.line}>
        <Button
          small
          grow
          label="Blank page after this one"
          onPress={() => {
            board.putBlank();
            onClose();
          }}
        />
        {lying && !lying.of.beside ? (
          <Button
            small
            grow
            label="Room beside this page"
            onPress={() => {
              board.putBeside();
              onClose();
            }}
          />
        ) : null}
      </View>
      {material ? (
        <View>
          <Heading level={3}>What the page says</Heading>
          <Words selectable>{material}</Words>
        </View>
      ) : null}
      <Words size="small" tone="soft">
        Two fingers on the page move it and come closer; with a mouse the wheel, held with Ctrl.
      </Words>
    </Sheet>
  );
};

const styles = StyleSheet.create({
  pages: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.medium },
  page: {
    flexBasis: 150,
    flexGrow: 1,
    maxWidth: 260,
    borderWidth: 3,
    borderRadius: RADIUS.small,
    overflow: 'hidden',
  },
  picture: { aspectRatio: PAGE_ASPECT },
  number: { textAlign: 'center', paddingVertical: 2 },
  line: { flexDirection: 'row', gap: SPACE.small },
});
