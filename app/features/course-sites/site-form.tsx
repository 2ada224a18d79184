import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { courseSiteSchema, type CourseSite } from '@under-chalk/core/course-site/site';
import { newId } from '../../capture/new-id';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';

type Part = Exclude<keyof CourseSite, 'id'>;

/** What is to be known of a course site, in the words that such sites have for it. */
const PARTS: readonly { readonly part: Part; readonly label: string; readonly hint?: string }[] = [
  { part: 'name', label: 'Name', hint: 'What you call it.' },
  { part: 'issuer', label: 'Issuer', hint: 'Also called platform ID; most often its address.' },
  { part: 'clientId', label: 'Client ID', hint: 'What it knows Under Chalk by.' },
  {
    part: 'authAddress',
    label: 'Authorization address',
    hint: 'Also called OIDC auth request URL.',
  },
  { part: 'tokenAddress', label: 'Token address', hint: 'Also called access token URL.' },
  { part: 'keysAddress', label: 'Keys address', hint: 'Also called public keyset or JWKS URL.' },
];

const EMPTY: Record<Part, string> = {
  ...{ name: '', issuer: '', clientId: '', authAddress: '', tokenAddress: '', keysAddress: '' },
};

interface Props {
  /** Null: a new one. */
  readonly site: CourseSite | null;
  readonly onDone: (kept: boolean) => void;
}

/** What is known of a course site, as it says it itself. */
export const SiteForm = ({ site, onDone }: Props) => {
  const client = useQueryClient();
  const [id] = useState(() => site?.id ?? newId());
  const [typed, setTyped] = useState<Record<Part, string>>(site ?? EMPTY);
  const [tried, setTried] = useState(false);
  const read = courseSiteSchema.safeParse({ ...typed, id });
  const wrong = new Set(read.error?.issues.map(({ path }) => path[0]));
  const keep = useMutation({
    mutationFn: (body: CourseSite) => call('setCourseSite', { body }),
    onSuccess: (all) => {
      client.setQueryData(KEYS.courseSites, all);
      onDone(true);
    },
  });
  const problemOf = (part: Part): string | undefined => {
    if (!tried || !wrong.has(part)) return undefined;
    return part.endsWith('Address')
      ? 'An address is needed, with https:// before it.'
      : 'This is needed.';
  };
  const press = () => {
    setTried(true);
    if (read.success) keep.mutate(read.data);
  };
  return (
    <View style={styles.group}>
      {PARTS.map(({ part, label, hint }) => (
        <Field
          key={part}
          label={label}
          {...(hint ? { hint } : {})}
          problem={problemOf(part)}
          value={typed[part]}
          maxLength={500}
          autoCapitalize="none"
          onChangeText={(text) => setTyped({ ...typed, [part]: text })}
          onSubmitEditing={press}
        />
      ))}
      <View style={styles.line}>
        <Button
          kind="main"
          label={site ? 'Keep it so' : 'Join it'}
          disabled={keep.isPending}
          onPress={press}
        />
        <Button label="Cancel" onPress={() => onDone(false)} />
      </View>
      <Words size="small" tone="soft">
        Only what this site signs is believed, and only of the courses that you give a class.
      </Words>
      {keep.error ? <ProblemNotice code={codeOf(keep.error)} /> : null}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
});
