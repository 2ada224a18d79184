import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { pathTo } from '@under-chalk/core/contract/api';
import type { GivenIn } from '@under-chalk/core/contract/submissions';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import type { SubmissionFile } from '@under-chalk/core/submission/submission';
import { bytesInWords } from '@under-chalk/core/text/bytes';
import { formatSpoken } from '@under-chalk/core/time/us';
import { codeOf } from '../../data/client';
import { useSubmissions } from '../../data/queries';
import { Button } from '../../ui/button';
import { dateTimeInWords } from '../../ui/date-time';
import { Failed, Loading } from '../../ui/screen';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';

/** What was handed in, newest first, and who hasn't handed anything in. */
export const LinkSubmissions = ({ shareLink }: { shareLink: ShareLink }) => {
  const given = useSubmissions(shareLink.id);
  if (!given.data) {
    return given.error ? (
      <Failed code={codeOf(given.error)} onRetry={() => void given.refetch()} />
    ) : (
      <Loading what="what was handed in" />
    );
  }
  const { submissions, missing } = given.data;
  return (
    <View style={styles.group}>
      {submissions.length === 0 ? <Words>Nothing has been handed in yet.</Words> : null}
      {submissions.length > 0 ? (
        <View role="list" aria-label="What was handed in" style={styles.group}>
          {submissions.map((one, at) => (
            <OneSubmission key={`${one.name} ${at}`} shareLinkId={shareLink.id} submission={one} />
          ))}
        </View>
      ) : null}
      {missing.length > 0 ? <Words>{`Not yet: ${missing.join(', ')}.`}</Words> : null}
      <View style={styles.line}>
        <Button small label="Look again" onPress={() => void given.refetch()} />
        {submissions.length > 0 ? (
          <Button
            small
            label="Save the list as a table (CSV)"
            onPress={() =>
              location.assign(pathTo('submissionsFile', { shareLinkId: shareLink.id }))
            }
          />
        ) : null}
      </View>
    </View>
  );
};

const OneSubmission = ({
  shareLinkId,
  submission: { name, known, text, files, at, late },
}: {
  shareLinkId: string;
  submission: GivenIn['submissions'][number];
}) => {
  const theme = useTheme();
  const who = name || 'Somebody';
  return (
    <View role="listitem" style={[styles.one, { borderColor: theme.line }]}>
      <Words strong>{known ? who : `${who} (as they say)`}</Words>
      <Words size="small" tone={late ? 'warn' : 'soft'}>
        {`${dateTimeInWords(at)}${late ? ' · late' : ''}`}
      </Words>
      {text ? <Words style={styles.written}>{text}</Words> : null}
      {files.map((file) => (
        <HandedFile key={file.id} file={file} who={who} shareLinkId={shareLinkId} />
      ))}
    </View>
  );
};

/** A voice and a camera are played here; anything else is saved. */
const HandedFile = ({
  file: { id, name, by, kind, bytes, lengthUs },
  who,
  shareLinkId,
}: {
  file: SubmissionFile;
  who: string;
  shareLinkId: string;
}) => {
  const path = pathTo('submissionFile', { shareLinkId, fileId: id });
  const length = lengthUs === null ? '' : ` of ${formatSpoken(lengthUs)}`;
  if (by === 'voice')
    return (
      <audio
        src={path}
        controls
        preload="metadata"
        style={SOUND}
        aria-label={`${who}’s voice${length}`}
      />
    );
  if (by === 'camera')
    return (
      <video
        src={path}
        controls
        playsInline
        preload="metadata"
        style={PICTURE}
        aria-label={`${who}’s camera${length}`}
      />
    );
  const size = bytesInWords(bytes);
  return (
    <>
      {kind === 'picture' || kind === 'pdf' ? (
        <Glance
          path={pathTo('submissionPicture', { shareLinkId, fileId: id })}
          words={kind === 'pdf' ? `First page of ${name}` : name}
        />
      ) : null}
      <View style={styles.line}>
        <Button
          small
          label={`${name} (${size})`}
          spoken={`Save ${name} from ${who}, ${size}`}
          onPress={() => location.assign(path)}
        />
      </View>
    </>
  );
};

/** What there is to be seen of a file at once; nothing where it can't be shown. */
const Glance = ({ path, words }: { path: string; words: string }) => {
  const [can, setCan] = useState(true);
  return can ? (
    <img src={path} alt={words} loading="lazy" style={GLANCE} onError={() => setCan(false)} />
  ) : null;
};

const SOUND = { width: '100%', maxWidth: 420 } as const;
const PICTURE = { width: '100%', maxWidth: 320, borderRadius: RADIUS.small } as const;

const GLANCE = {
  ...PICTURE,
  maxHeight: 420,
  objectFit: 'contain',
  objectPosition: 'left',
} as const;

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  one: { gap: SPACE.hair, borderWidth: 1, borderRadius: RADIUS.small, padding: SPACE.small },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  written: { ...({ whiteSpace: 'pre-wrap', overflowWrap: 'anywhere' } as object) },
});
