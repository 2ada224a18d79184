import { StyleSheet, View } from 'react-native';
import type { Crop } from '@under-chalk/core/lesson/crop';
import type { RecorderState } from '@under-chalk/core/record/recorder-state';
import { ChalkFrame } from '../../ui/chalk-frame';
import { DraggedInset } from '../../ui/over-picture';
import { useLayout } from '../../ui/layout';
import { BoardSurface } from '../board/board-surface';
import type { LiveBoard } from '../board/live-board';
import { LiveView, liveTrack } from './live-view';
import { LINE } from './recorder-words';
import type { Live } from './use-live';
import type { Chosen, Sources } from './use-sources';

const ASPECT = 16 / 9;
/** What else stands above and below the picture, px: beside it little does. */
const ROUND = { above: 430, beside: 190, low: 112 };
const WORDS = 230;
const LEAST_HEIGHT = 120;

interface Props {
  readonly state: RecorderState;
  readonly chosen: Chosen;
  readonly sources: Sources;
  readonly board: LiveBoard;
  /** What is captured is being written on. */
  readonly writing: boolean;
  readonly crop: Crop;
  readonly live: Live;
  /** The inset can be dragged. */
  readonly movable: boolean;
  /** The words to read stand above it. */
  readonly underWords: boolean;
}

/** What is being recorded, as large as the room allows, with the chalk line round it. */
export const RecordingPicture = ({
  state,
  chosen,
  sources,
  board,
  writing,
  crop,
  live,
  movable,
  underWords,
}: Props) => {
  const { beside, height, low } = useLayout();
  const round = !beside ? ROUND.above : low ? ROUND.low : ROUND.beside;
  const camera = liveTrack(sources.camera, 'camera');
  const most = Math.max(LEAST_HEIGHT, height - round - (underWords ? WORDS : 0)) * ASPECT;
  return (
    <View style={[styles.picture, { maxWidth: most }]}>
      <ChalkFrame line={LINE[state.name]}>
        <LiveView
          screen={chosen.source === 'screen' ? sources.screen : null}
          camera={chosen.source === 'sound' ? null : sources.camera}
          board={chosen.source === 'board' ? <BoardSurface board={board} /> : null}
          over={
            chosen.source === 'screen' || chosen.source === 'camera'
              ? (from) => (
                  <View style={[styles.over, writing ? null : styles.untouched]}>
                    <BoardSurface
                      board={board}
                      from={from}
                      name="What is captured"
                      off={!writing}
                    />
                  </View>
                )
              : null
          }
          layout={live.layout}
          crop={crop}
          empty="Sound alone"
        >
          {movable && !live.cameraOff && live.layout.kind === 'inset' && camera ? (
            <DraggedInset
              inset={live.layout.inset}
              cameraAspect={camera.widthPx / camera.heightPx}
              frameAspect={ASPECT}
              onMove={(inset) => live.changeLayout({ inset })}
            />
          ) : null}
        </LiveView>
      </ChalkFrame>
    </View>
  );
};

const styles = StyleSheet.create({
  picture: { width: '100%', alignSelf: 'center' },
  over: { position: 'absolute', left: 0, top: 0, width: '100%', height: '100%' },
  untouched: { pointerEvents: 'none' },
});
