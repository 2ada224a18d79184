import { useRef, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { aspectOf } from '@under-chalk/core/lesson/layout';
import {
  FOUND_COVER,
  isFound,
  timeOfCover,
  pageOfCover,
  type Cover,
} from '@under-chalk/core/lesson/cover';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { calledName } from '@under-chalk/core/material/material';
import type { RecordedPlace } from '@under-chalk/core/film/film';
import { formatClock, type Us } from '@under-chalk/core/time/us';
import { codeOf } from '../../data/client';
import { useEdits } from '../../data/edits';
import { useCoverChoices } from '../../data/queries';
import { useTeacherText } from '../../messages/use-text';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { FileInput } from '../../ui/file-input';
import { Failed, Loading } from '../../ui/screen';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { ComingRows } from '../materials/coming-rows';
import { useBringMaterials } from '../materials/use-bring-materials';
import { usePictures } from '../materials/use-pictures';
import { coverPath } from './cover-path';
import { PictureChoices } from './picture-choices';

interface Props {
  readonly lesson: Lesson;
  readonly onClose: () => void;
  /** The moment that is looked at just now. */
  readonly stoppedAt: { readonly filmUs: Us; readonly place: RecordedPlace } | null;
}

const OTHER = 'picture';

/** Chooses what students see before the film plays: a moment of it, or a picture; with the title over it or without. */
export const CoverSheet = ({ onClose, ...rest }: Props) => {
  const { t } = useTeacherText();
  return (
    <Sheet title={t('cover.title')} open onClose={onClose}>
      <CoverChoice {...rest} />
    </Sheet>
  );
};

const CoverChoice = ({ lesson, stoppedAt }: Omit<Props, 'onClose'>) => {
  const theme = useTheme();
  const { t } = useTeacherText();
  const { put } = useEdits();
  const { cover, frame } = lesson.decisions;
  const choices = useCoverChoices(lesson.id, lesson.revision);
  const pictures = usePictures(lesson.id);
  const bringing = useBringMaterials(lesson.id);
  const input = useRef<HTMLInputElement>(null);
  const choose = (next: Cover) => put({ do: 'set-cover', cover: next });
  const show = (of: Cover['of']) => choose({ ...cover, of });
  const [moment, page] = [timeOfCover(cover), pageOfCover(cover)];
  const aspect = aspectOf(frame.shape);
  // All that is decided while this is open is the cover: pictures of moments stay as they are.
  const [changed] = useState(lesson.revision);
  const pathOf = (of: Cover, size: 'small' | 'large') =>
    coverPath({ id: lesson.id, changed }, of, size);
  const proposed = choices.data?.proposed ?? [];
  const chosen = proposed.find(
    ({ takeId, atUs }) => takeId === moment?.takeId && atUs === moment.atUs,
  );
  return (
    <View style={styles.group}>
      {/* As the browser has it: the one before stays until the next has come. */}
      <img
        src={pathOf(cover, 'large')}
        alt={t('cover.alt')}
        style={{
          ...{ width: '100%', aspectRatio: String(aspect), display: 'block' },
          ...{ borderRadius: RADIUS.small, background: theme.line, objectFit: 'cover' },
        }}
      />
      <Choices
        label={t('cover.showTitle')}
        choices={[
          { value: 'no', label: t('cover.no') },
          { value: 'yes', label: t('cover.yes') },
        ]}
        value={cover.titled ? 'yes' : 'no'}
        onChoose={(value) => choose({ ...cover, titled: value === 'yes' })}
      />
      {choices.error ? (
        <Failed code={codeOf(choices.error)} onRetry={() => void choices.refetch()} />
      ) : choices.isPending ? (
        <Loading />
      ) : proposed.length > 0 ? (
        <PictureChoices
          label={t('cover.moments')}
          aspect={aspect}
          choices={proposed.map(({ takeId, atUs, filmUs }) => ({
            value: `${takeId} ${atUs}`,
            label: formatClock(filmUs),
            uri: pathOf({ of: { takeId, atUs }, titled: false }, 'small'),
          }))}
          value={chosen ? `${chosen.takeId} ${chosen.atUs}` : null}
          onChoose={(value) => {
            const found = proposed.find(({ takeId, atUs }) => `${takeId} ${atUs}` === value);
            if (found) show({ takeId: found.takeId, atUs: found.atUs });
          }}
        />
      ) : (
        <Words>{t('cover.noMoments')}</Words>
      )}
      {pictures.length > 0 ? (
        <Choices
          label={t('cover.pictures')}
          choices={pictures.map(({ id, name }) => ({ value: id, label: calledName(name) }))}
          value={
            page ? (pictures.find(({ of }) => of.content === page.content)?.id ?? OTHER) : null
          }
          onChoose={(id) => show(pictures.find((one) => one.id === id)?.of ?? null)}
        />
      ) : null}
      <ComingRows {...bringing} />
      <View style={styles.line}>
        {stoppedAt ? (
          <Button
            label={t('cover.useThisMoment', { time: formatClock(stoppedAt.filmUs) })}
            onPress={() =>
              show({ takeId: stoppedAt.place.takeId, atUs: Math.round(stoppedAt.place.takeUs) })
            }
          />
        ) : null}
        <Button label={t('cover.upload')} onPress={() => input.current?.click()} />
        {isFound(cover) ? null : (
          <Button label={t('cover.automatic')} onPress={() => choose(FOUND_COVER)} />
        )}
      </View>
      <FileInput
        ref={input}
        label={t('cover.file')}
        accept="image/*,.png,.jpg,.jpeg,.webp,.avif,.gif,.svg"
        onFiles={(files) => void bringing.bring(files)}
      />
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.medium },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
