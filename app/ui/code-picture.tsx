import { create } from 'qrcode';
import { StyleSheet, View } from 'react-native';
import Svg, { Path } from 'react-native-svg';
import {
  qrCodePath,
  darkRuns,
  QUIET_MODULES,
  type Modules,
} from '@under-chalk/core/share-link/qr-code-path';
import { fileNameOf } from '@under-chalk/core/lesson/file-name';
import { saveBytes } from '../data/save-bytes';
import { Button } from './button';
import { FONTS, RADIUS, SPACE } from './theme';

/** Dark on light, whatever the theme: many readers know no other. */
const DARK = '#000000';
const LIGHT = '#ffffff';
/** Of the picture that is saved: a module’s side and the words under it, px. */
const MODULE_PX = 24;
const WORDS_PX = 44;

/** The code of an address; a quarter of it may be torn or dirty (level Q), for it hangs where people go by. */
const modulesOf = (address: string): Modules => {
  const { modules } = create(address, { errorCorrectionLevel: 'Q' });
  return { size: modules.size, isDark: (row, column) => modules.get(row, column) === 1 };
};

/** Saves the code as a picture to be printed, with what it is of under it. */
const savePicture = async (modules: Modules, title: string): Promise<void> => {
  const side = (modules.size + 2 * QUIET_MODULES) * MODULE_PX;
  const canvas = new OffscreenCanvas(side, side + 2 * WORDS_PX);
  const context = canvas.getContext('2d')!;
  context.fillStyle = LIGHT;
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.fillStyle = DARK;
  for (const { row, column, length } of darkRuns(modules)) {
    const [x, y] = [column + QUIET_MODULES, row + QUIET_MODULES];
    context.fillRect(x * MODULE_PX, y * MODULE_PX, length * MODULE_PX, MODULE_PX);
  }
  context.font = `${WORDS_PX}px ${FONTS.heading}`;
  context.textAlign = 'center';
  context.fillText(title, side / 2, side + WORDS_PX / 2, side - 4 * MODULE_PX);
  const picture = await canvas.convertToBlob({ type: 'image/png' });
  saveBytes(picture, 'image/png', fileNameOf(title, 'png'));
};

interface Props {
  readonly address: string;
  /** What it leads to. */
  readonly title: string;
}

/** An address as a code that phones read from a wall or a screen (QR, ISO/IEC 18004), and how to keep it as a picture. */
export const CodePicture = ({ address, title }: Props) => {
  const modules = modulesOf(address);
  const side = modules.size + 2 * QUIET_MODULES;
  return (
    <View style={styles.all}>
      <View
        role="img"
        aria-label={`QR code that leads to “${title}”`}
        style={styles.code}
        testID="wall-code"
      >
        <Svg width="100%" height="100%" viewBox={`0 0 ${side} ${side}`}>
          <Path d={qrCodePath(modules)} fill={DARK} />
        </Svg>
      </View>
      <Button label="Save it as a picture" onPress={() => void savePicture(modules, title)} />
    </View>
  );
};

const styles = StyleSheet.create({
  all: { gap: SPACE.medium, alignItems: 'center' },
  code: {
    width: '100%',
    maxWidth: 320,
    aspectRatio: 1,
    backgroundColor: LIGHT,
    borderRadius: RADIUS.small,
  },
});
