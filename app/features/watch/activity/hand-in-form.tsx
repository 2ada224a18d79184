import { useRef, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { isLate, type Activity } from '@under-chalk/core/hand-in/activity';
import { MOST_FILE_BYTES, MOST_FILES, MOST_HAND_IN_SIGNS } from '@under-chalk/core/hand-in/hand-in';
import { tell, isErrorCode } from '@under-chalk/core/errors/errors';
import { bytesInWords } from '@under-chalk/core/text/bytes';
import { Button } from '../../../ui/button';
import { Field } from '../../../ui/field';
import { FileInput } from '../../../ui/file-input';
import { momentInWords } from '../../../ui/moment';
import { ProblemNotice } from '../../../ui/notice';
import { Row } from '../../../ui/row';
import { Words } from '../../../ui/text';
import { SPACE } from '../../../ui/theme';
import { HalfMinute } from './half-minute';
import { useHandIn, type FileToHandIn, type HandInWork } from './use-hand-in';

export interface HandInProps {
  readonly token: string;
  readonly activity: Activity;
  /** It is an address of their own: their teacher knows who hands in. */
  readonly named: boolean;
  readonly teacherName: string;
}

const ACCEPT =
  'image/*,audio/*,video/*,.pdf,.txt,.md,.doc,.docx,.odt,.xls,.xlsx,.ods,.ppt,.pptx,.odp';

/** Where something is handed in: typed, chosen, said or shown. */
export const HandInForm = ({ token, activity: { by, dueAt }, named, teacherName }: HandInProps) => {
  const work = useHandIn(token, named);
  const chooser = useRef<HTMLInputElement>(null);
  const [open, setOpen] = useState<'voice' | 'camera' | null>(null);
  const [tooLarge, setTooLarge] = useState<string | null>(null);
  const room = work.files.length < MOST_FILES;
  const nothing = work.text.trim() === '' && work.files.length === 0;
  const unfit = work.files.some(({ state }) => state === 'refused' || state === 'gone');
  const needsName = !named && work.name.trim() === '';
  const choose = (files: readonly File[]) => {
    const fit = files.filter(({ size }) => size > 0 && size <= MOST_FILE_BYTES);
    const [large] = files.filter(({ size }) => size > MOST_FILE_BYTES);
    setTooLarge(large?.name ?? null);
    for (const file of fit.slice(0, MOST_FILES - work.files.length))
      work.add('file', file.name, file);
  };
  return (
    <View style={styles.form}>
      {named ? null : (
        <Field
          label="Your name"
          maxLength={60}
          value={work.name}
          onChangeText={(name) => work.write({ name })}
        />
      )}
      {by.includes('words') ? (
        <Field
          label="What you write"
          multiline
          maxLength={MOST_HAND_IN_SIGNS}
          value={work.text}
          onChangeText={(text) => work.write({ text })}
        />
      ) : null}
      {work.files.length > 0 ? (
        <View role="list" aria-label="Files to hand in" style={styles.form}>
          {work.files.map((file) => (
            <FileLine key={file.id} file={file} work={work} />
          ))}
        </View>
      ) : null}
      {open ? (
        <HalfMinute
          key={open}
          by={open}
          onKeep={(bytes) => {
            work.add(open, open === 'voice' ? 'Voice' : 'Camera', bytes);
            setOpen(null);
          }}
          onClose={() => setOpen(null)}
        />
      ) : room ? (
        <View style={styles.line}>
          {by.includes('file') ? (
            <Button small label="Add a file" onPress={() => chooser.current?.click()} />
          ) : null}
          {by.includes('voice') ? (
            <Button small label="Say it in half a minute" onPress={() => setOpen('voice')} />
          ) : null}
          {by.includes('camera') ? (
            <Button small label="Show it in half a minute" onPress={() => setOpen('camera')} />
          ) : null}
        </View>
      ) : (
        <Words
          size="small"
          tone="soft"
        >{`${MOST_FILES} files are all that can be handed in.`}</Words>
      )}
      <FileInput ref={chooser} label="Files to hand in" accept={ACCEPT} multiple onFiles={choose} />
      {tooLarge === null ? null : (
        <Words tone="warn" role="alert">
          {`${tooLarge} is larger than ${MOST_FILE_BYTES / 1e6} MB, which is the most that can be handed in.`}
        </Words>
      )}
      <View style={styles.line}>
        <Button
          kind="main"
          label={work.given ? 'Hand it in again' : 'Hand it in'}
          disabled={nothing || unfit || needsName || work.isGiven || work.pressed || open !== null}
          onPress={work.handIn}
        />
      </View>
      <View role="status">
        <HowItStands work={work} dueAt={dueAt} />
        {open !== null && !nothing ? (
          <Words size="small" tone="soft">
            Take what you record, or leave it, before you hand in.
          </Words>
        ) : null}
        {needsName && !nothing ? (
          <Words size="small" tone="soft">
            Say who you are before you hand it in.
          </Words>
        ) : null}
      </View>
      {work.problem ? <ProblemNotice code={work.problem} /> : null}
      <Words size="small" tone="soft">
        {`Only ${teacherName || 'your teacher'} sees what you hand in. What you write stays in this browser until then.`}
      </Words>
    </View>
  );
};

/** How it stands with what is handed in, in words. */
const HowItStands = ({ work, dueAt }: { work: HandInWork; dueAt: string | null }) => {
  const { given, pressed, isGiven } = work;
  if (pressed)
    return (
      <Words size="small" tone="soft">
        Kept here, and handed in as soon as all of it can be sent. Leave this page open, or come
        back to it.
      </Words>
    );
  if (!given) return null;
  const when = `Handed in on ${momentInWords(given.at)}${isLate(given.at, dueAt) ? ', after its date' : ''}.`;
  return (
    <>
      <Words tone="good">{when}</Words>
      {isGiven ? null : (
        <Words size="small" tone="warn">
          It has been changed here since then, and not handed in again.
        </Words>
      )}
    </>
  );
};

const problemOf = (code: string | null): string =>
  code !== null && isErrorCode(code) ? tell(code).sentence : 'It can’t be taken.';

const FileLine = ({ file, work }: { file: FileToHandIn; work: HandInWork }) => {
  const { id, name, state, bytes, problem } = file;
  const percent = Math.floor((work.done[id] ?? 0) * 100);
  const size = bytesInWords(bytes);
  const stands = {
    coming: percent === 0 ? `${size} · waiting to be sent` : `${size} · ${percent} % sent`,
    there: `${size} · there`,
    refused: problemOf(problem),
    gone: 'It isn’t in this browser any more. Choose it anew.',
  }[state];
  const unfit = state === 'refused' || state === 'gone';
  return (
    <Row>
      <View style={styles.file}>
        <Words strong style={styles.name}>
          {name}
        </Words>
        <Words size="small" tone={unfit ? 'warn' : 'soft'} role={unfit ? 'alert' : 'none'}>
          {stands}
        </Words>
      </View>
      <Button small label="Take it out" spoken={`Take ${name} out`} onPress={() => work.drop(id)} />
    </Row>
  );
};

const styles = StyleSheet.create({
  form: { gap: SPACE.small },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  file: { flex: 1, gap: SPACE.hair },
  name: { ...({ overflowWrap: 'anywhere' } as object) },
});
