import { useState, type ReactNode } from 'react';
import { StyleSheet, View } from 'react-native';
import { codeOf } from '../../data/client';
import { Button } from '../../ui/button';
import { CodePicture } from '../../ui/code-picture';
import { COPIED_WORDS, copyText, type Copied } from '../../ui/copy-text';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';

interface Props {
  /** Its address; null where it can’t be shown any more. */
  readonly address: string | null;
  readonly away: boolean;
  /** What the code in the sheet leads to. */
  readonly title: string;
  /** What the page is for, and what it means to pass its address on. */
  readonly about: string;
  /** What it means that it is taken away. */
  readonly aboutAway: string;
  readonly busy: boolean;
  readonly error: Error | null;
  readonly onOpen: (open: boolean) => void;
  readonly onRenew: () => void;
  /** More that can be copied. */
  readonly copies?: readonly { readonly label: string; readonly text: string }[];
  readonly children?: ReactNode;
}

/** What can be done about a page that is reached by an address of its own. */
export const PageSheet = ({
  address,
  away,
  title,
  about,
  aboutAway,
  busy,
  error,
  onOpen,
  onRenew,
  copies = [],
  children,
}: Props) => {
  const [copied, setCopied] = useState<Copied>('no');
  const [renewing, setRenewing] = useState(false);
  const renew = () => {
    setCopied('no');
    setRenewing(false);
    onRenew();
  };
  const copy = (text: string) => void copyText(text).then(setCopied);
  const problem = error ? <ProblemNotice code={codeOf(error)} /> : null;
  if (away) {
    return (
      <View style={styles.group}>
        <Words>{aboutAway}</Words>
        <View style={styles.buttons}>
          <Button label="Give it back" disabled={busy} onPress={() => onOpen(true)} />
          <Button label="Give a new address" disabled={busy} onPress={renew} />
        </View>
        {problem}
      </View>
    );
  }
  return (
    <View style={styles.group}>
      <Words>{about}</Words>
      {address === null ? (
        <Words tone="warn">
          It works, but its address can’t be shown any more. Give a new one to pass on.
        </Words>
      ) : (
        <>
          <Words strong selectable testID="page-address" style={styles.address}>
            {address}
          </Words>
          <View style={styles.buttons}>
            <Button kind="main" label="Copy the address" onPress={() => copy(address)} />
            {copies.map(({ label, text }) => (
              <Button key={label} label={label} onPress={() => copy(text)} />
            ))}
          </View>
          <Words size="small" role="status">
            {COPIED_WORDS[copied]}
          </Words>
          <CodePicture address={address} title={title} />
        </>
      )}
      {children}
      {renewing ? (
        <View style={styles.group}>
          <Words>The address that it has now leads nowhere from then on.</Words>
          <View style={styles.buttons}>
            <Button label="Keep the old one" onPress={() => setRenewing(false)} />
            <Button kind="grave" label="Yes, a new address" disabled={busy} onPress={renew} />
          </View>
        </View>
      ) : (
        <View style={styles.buttons}>
          <Button small label="Give a new address" onPress={() => setRenewing(true)} />
          <Button
            small
            kind="grave"
            label="Take the page away"
            disabled={busy}
            onPress={() => onOpen(false)}
          />
        </View>
      )}
      {problem}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.medium },
  buttons: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  address: { ...({ overflowWrap: 'anywhere' } as object) },
});
