import { StyleSheet } from 'react-native';
import { CodePicture } from '../../ui/code-picture';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/text';

interface Props {
  readonly address: string;
  readonly title: string;
  readonly onClose: () => void;
}

/** A link as a code for a wall. */
export const QrCode = ({ address, title, onClose }: Props) => (
  <Sheet title="A code for the wall" open onClose={onClose}>
    <CodePicture address={address} title={title} />
    <Words size="small" tone="soft" style={styles.address}>
      {address}
    </Words>
  </Sheet>
);

const styles = StyleSheet.create({
  address: { textAlign: 'center', ...({ overflowWrap: 'anywhere' } as object) },
});
