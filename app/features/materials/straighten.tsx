import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Image, StyleSheet, View } from 'react-native';
import { calledName, type Material } from '@under-chalk/core/material/material';
import { areWhole, WHOLE_PICTURE, type Corners } from '@under-chalk/core/material/sheet/corners';
import { pictureAddress } from '../../data/page-pictures';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { Notice } from '../../ui/notice';
import { DraggedCorners } from '../../ui/over-picture';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { sheetIn, sheetOf } from './sheet-maker';

/** Files that a camera makes, by their names; what was pasted has none. */
const PHOTOGRAPH = /\.(jpe?g|png|webp|avif|heic)$|^Pasted picture$/i;

/** Whether a material may be a photographed sheet. */
export const canStraighten = ({ name, state, aspects }: Material): boolean =>
  state === 'ready' && aspects.length === 1 && PHOTOGRAPH.test(name);

interface Props {
  readonly material: Material;
  /** Given the sheet, laid flat, under the material's own name. */
  readonly onMade: (sheet: File) => void;
}

/** The way to lay a photographed sheet flat: its corners are proposed, and moved where they lie otherwise. */
export const Straighten = ({ material, onMade }: Props) => {
  const [open, setOpen] = useState(false);
  const name = calledName(material.name);
  return (
    <>
      <Button
        small
        label="Straighten"
        spoken={`Straighten ${name}`}
        onPress={() => setOpen(true)}
      />
      <Sheet title={`Straighten ${name}`} open={open} onClose={() => setOpen(false)}>
        {open ? (
          <Straightening
            material={material}
            onMade={(sheet) => {
              setOpen(false);
              onMade(sheet);
            }}
          />
        ) : null}
      </Sheet>
    </>
  );
};

const LIGHTS = [
  { value: 'even', label: 'even and light' },
  { value: 'as-it-is', label: 'as it is' },
] as const;
type Light = (typeof LIGHTS)[number]['value'];

const Straightening = ({ material, onMade }: Props) => {
  const content = material.content!;
  const address = pictureAddress({ content, page: 0 }, 3840);
  const found = useQuery({
    queryKey: ['sheet-in', content],
    queryFn: () => sheetIn(pictureAddress({ content, page: 0 }, 960)),
    staleTime: Infinity,
    retry: false,
  });
  const [moved, setMoved] = useState<Corners | null>(null);
  const [light, setLight] = useState<Light>('even');
  const corners = moved ?? found.data ?? WHOLE_PICTURE;
  const make = useMutation({
    mutationFn: async () => {
      const sheet = await sheetOf(address, corners, light === 'even');
      // Its name stays: a topic of the outline that names it shows it from now on.
      return new File([sheet], `${calledName(material.name)}.jpg`, { type: 'image/jpeg' });
    },
    onSuccess: onMade,
  });
  return (
    <View style={styles.group}>
      <Words>
        Drag the corners to those of the sheet, or move each with the arrow keys. What is outside is
        left out.
      </Words>
      <View style={styles.room}>
        <View style={{ aspectRatio: material.aspects[0]! }}>
          <Image
            source={{ uri: pictureAddress({ content, page: 0 }, 960) }}
            style={styles.fill}
            alt="The whole photograph"
          />
          <DraggedCorners corners={corners} onCorners={setMoved} />
        </View>
      </View>
      {found.data && areWhole(found.data) && !moved ? (
        <Words size="small" tone="soft">
          No sheet could be told from what it lies on: its corners are those of the picture.
        </Words>
      ) : null}
      <Choices label="Its light" choices={LIGHTS} value={light} onChoose={setLight} />
      {make.error ? (
        <Notice
          tone="bad"
          title="It could not be straightened."
          text="The picture is as it was. It may be too large for this device: try again on another one."
        />
      ) : null}
      <Button
        kind="main"
        label={make.isPending ? 'Straightening…' : 'Straighten it'}
        disabled={make.isPending}
        onPress={() => make.mutate()}
      />
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  // Corners at the very edge are taken hold of there, too.
  room: { paddingHorizontal: 22, paddingVertical: 12 },
  fill: { width: '100%', height: '100%' },
});
