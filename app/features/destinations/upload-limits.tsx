import { useState } from 'react';
import { View } from 'react-native';
import { uploadLimitsIn } from '@under-chalk/core/destination/upload-limits';
import { formatClock, formatSpoken } from '@under-chalk/core/time/us';
import { Field } from '../../ui/field';
import { Words } from '../../ui/text';

/** Most of a place’s own words that is gone through, signs. */
const MOST_SIGNS = 2_000;

/** The limits that were found, as they are typed. */
interface Found {
  least?: string;
  most?: string;
  megabytes?: string;
}

/** What a place says of its limits, pasted: they are taken from it. */
export const UploadLimitsForm = ({ onFound }: { onFound: (typed: Found) => void }) => {
  const [said, setSaid] = useState('');
  const { leastUs, mostUs, mostMegabytes } = uploadLimitsIn(said);
  const found = [
    leastUs === null ? '' : `at least ${formatSpoken(leastUs)}`,
    mostUs === null ? '' : `at most ${formatSpoken(mostUs)}`,
    mostMegabytes === null ? '' : `at most ${mostMegabytes} MB`,
  ].filter(Boolean);
  const read = (text: string) => {
    setSaid(text);
    const now = uploadLimitsIn(text);
    onFound({
      ...(now.leastUs === null ? {} : { least: formatClock(now.leastUs) }),
      ...(now.mostUs === null ? {} : { most: formatClock(now.mostUs) }),
      ...(now.mostMegabytes === null ? {} : { megabytes: String(now.mostMegabytes) }),
    });
  };
  return (
    <View>
      <Field
        label="What the place says of its limits"
        hint="Paste it from there: minutes and megabytes are taken from it."
        value={said}
        maxLength={MOST_SIGNS}
        onChangeText={read}
      />
      <Words size="small" tone="soft" role="status">
        {said.trim() === ''
          ? ''
          : found.length === 0
            ? 'No limit is found in it.'
            : `Taken from it: ${found.join(', ')}.`}
      </Words>
    </View>
  );
};
