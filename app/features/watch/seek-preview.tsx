import { useState, type ReactNode } from 'react';
import { PREVIEW_PX, previewAt, previewSheet } from '@under-chalk/core/stream/preview-sheet';
import { formatClock, type Us } from '@under-chalk/core/time/us';
import { FONTS, RADIUS, useTheme } from '../../ui/theme';

interface Props {
  readonly filmUs: Us;
  /** Width by height of the picture. */
  readonly aspect: number;
  /** Where the sheet of small pictures is; null: there is none. */
  readonly sheetPath: string | null;
  /** The slider that a place is looked for on. */
  readonly children: ReactNode;
}

/** Of the slider's width, half of its handle, px: there a place is at its end. */
const HANDLE_PX = 8;

type Sheet = 'not-asked' | 'coming' | 'here' | 'none';

/**
 * Shows what is at a place of the film while a mouse or a finger is over it. Nothing is fetched before that, and where there is no sheet
 * (the film is still being made) it is the time alone. Whoever moves by keys sees the film itself.
 */
export const SeekPreview = ({ filmUs, aspect, sheetPath, children }: Props) => {
  const theme = useTheme();
  const [over, setOver] = useState<{
    readonly us: Us;
    readonly x: number;
    readonly width: number;
  } | null>(null);
  const [sheet, setSheet] = useState<Sheet>('not-asked');
  const fetchSheet = () => {
    if (sheetPath === null || sheet !== 'not-asked') return;
    setSheet('coming');
    const image = new Image();
    image.onload = () => setSheet('here');
    image.onerror = () => setSheet('none');
    image.src = sheetPath;
  };
  const move = (event: React.PointerEvent<HTMLDivElement>) => {
    const { left, width } = event.currentTarget.getBoundingClientRect();
    const x = Math.min(width - HANDLE_PX, Math.max(HANDLE_PX, event.clientX - left));
    const share = (x - HANDLE_PX) / Math.max(1, width - 2 * HANDLE_PX);
    fetchSheet();
    setOver({ us: share * filmUs, x, width });
  };
  const leave = () => setOver(null);
  const laidOut = previewSheet(filmUs);
  const height = Math.round(PREVIEW_PX / aspect / 2) * 2;
  const shown = sheet === 'here' && sheetPath !== null;
  const wide = shown ? PREVIEW_PX : 64;
  const at = over && previewAt(laidOut, over.us);
  return (
    <div
      dir="ltr"
      style={{ position: 'relative' }}
      onPointerMove={move}
      onPointerLeave={leave}
      onPointerCancel={leave}
      onPointerUp={(event) => {
        if (event.pointerType !== 'mouse') leave();
      }}
    >
      {over && at ? (
        <div
          aria-hidden
          data-testid="seek-preview"
          style={{
            position: 'absolute',
            bottom: '100%',
            left: Math.max(0, Math.min(over.width - wide - 4, over.x - wide / 2)),
            zIndex: 2,
            pointerEvents: 'none',
            padding: 2,
            borderRadius: RADIUS.small,
            background: theme.ink,
            color: theme.paper,
            textAlign: 'center',
            fontFamily: FONTS.text,
            fontSize: 15,
            minWidth: wide,
          }}
        >
          {shown ? (
            <div
              style={{
                width: PREVIEW_PX,
                height,
                borderRadius: RADIUS.small - 2,
                backgroundImage: `url("${sheetPath}")`,
                backgroundPosition: `-${at.column * PREVIEW_PX}px -${at.row * height}px`,
              }}
            />
          ) : null}
          {formatClock(over.us)}
        </div>
      ) : null}
      {children}
    </div>
  );
};
