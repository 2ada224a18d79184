import { StyleSheet, View } from 'react-native';
import { calledName } from '@under-chalk/core/material/material';
import { namedPage, pageInWords } from '@under-chalk/core/material/named-page';
import { useMaterials } from '../../data/queries';
import { Choices } from '../../ui/choices';
import { Stepper } from '../../ui/stepper';
import { SPACE } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';

interface Props {
  /** What it is for, as a name. */
  readonly of: string;
  readonly show: string;
  readonly onShow: (show: string) => void;
}

/** Chooses a page of the lesson's materials to show; it can be typed as well. Nothing where there are none. */
export const PageToShow = ({ of, show, onShow }: Props) => {
  const { lesson } = useThisLesson();
  const { data = [] } = useMaterials(lesson.id);
  const ready = data.filter(({ state }) => state === 'ready');
  if (ready.length === 0) return null;
  const named = namedPage(show, ready);
  const material = ready.find(({ id }) => id === named?.id);
  return (
    <View style={styles.group}>
      <Choices
        label={`Material for ${of}`}
        choices={ready.map(({ id, name }) => ({ value: id, label: calledName(name) }))}
        value={material?.id ?? null}
        onChoose={(id) => onShow(pageInWords(ready.find((one) => one.id === id)!.name, 0))}
      />
      {material && named && material.aspects.length > 1 ? (
        <Stepper
          label={`Page for ${of}`}
          value={Math.min(named.page, material.aspects.length - 1) + 1}
          least={1}
          most={material.aspects.length}
          step={1}
          unit={`of ${material.aspects.length}`}
          format={String}
          parse={(text) => (/^\d{1,4}$/.test(text.trim()) ? Number(text) : null)}
          stepWords={['the page before', 'the next page']}
          onChange={(page) => onShow(pageInWords(material.name, page - 1))}
        />
      ) : null}
    </View>
  );
};

const styles = StyleSheet.create({ group: { gap: SPACE.small } });
