import { useState } from 'react';
import {
  KNOWN_LICENCES,
  licenceName,
  toldLicence,
  type Licence,
} from '@under-chalk/core/lesson/licence';
import { useEdits } from '../../data/edits';
import { Choices } from '../../ui/choices';
import { Field } from '../../ui/field';
import { Sheet } from '../../ui/sheet';

const NOTHING = 'nothing';
const OWN = 'own';
const LABEL = 'What others may do with it';

interface Props {
  readonly licence: Licence | null;
  readonly onClose: () => void;
}

/** Says what others may do with the film: it stands on its page and in its file. */
export const LicenceSheet = ({ licence, onClose }: Props) => {
  const { put } = useEdits();
  const give = (next: Licence | null) => put({ do: 'set-licence', licence: next });
  const own = licence?.is === OWN ? licence.words : null;
  const [writing, setWriting] = useState(false);
  const choose = (value: string) => {
    setWriting(value === OWN);
    const known = KNOWN_LICENCES.find((one) => one === value);
    if (known) give({ is: known });
    else if (value === NOTHING) give(null);
  };
  return (
    <Sheet title={LABEL} open onClose={onClose}>
      <Choices
        label={LABEL}
        hideLabel
        stacked
        choices={[
          { value: NOTHING, label: 'Nothing is said' },
          ...KNOWN_LICENCES.map((is) => ({
            ...{ value: is, label: toldLicence({ is }).line },
            ...(is === 'all-rights' ? {} : { hint: licenceName(is) }),
          })),
          { value: OWN, label: 'My own words' },
        ]}
        value={writing ? OWN : (licence?.is ?? NOTHING)}
        onChoose={choose}
      />
      {writing || own !== null ? (
        <OwnWords words={own ?? ''} onWords={(words) => give({ is: OWN, words })} />
      ) : null}
    </Sheet>
  );
};

/** The words, to be written: what is left empty says nothing new. */
const OwnWords = ({ words, onWords }: { words: string; onWords: (words: string) => void }) => {
  const [text, setText] = useState(words);
  const keep = () => {
    const said = text.trim();
    if (said !== '' && said !== words) onWords(said);
  };
  return (
    <Field
      label="In my words"
      maxLength={200}
      value={text}
      onChangeText={setText}
      onBlur={keep}
      onSubmitEditing={keep}
    />
  );
};
