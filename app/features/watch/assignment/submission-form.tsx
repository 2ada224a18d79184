import { useRef, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import { isLate, type Assignment } from '@under-chalk/core/submission/assignment';
import {
  MOST_FILE_BYTES,
  MOST_FILES,
  MOST_SUBMISSION_SIGNS,
} from '@under-chalk/core/submission/submission';
import { useText } from '../../../messages/use-text';
import { Button } from '../../../ui/button';
import { Field } from '../../../ui/field';
import { FileInput } from '../../../ui/file-input';
import { ProblemNotice } from '../../../ui/notice';
import { Row } from '../../../ui/row';
import { Words } from '../../../ui/text';
import { SPACE } from '../../../ui/theme';
import { HalfMinute } from './half-minute';
import { useSubmission, type FileToSubmit, type SubmissionWork } from './use-submission';

export interface SubmissionProps {
  readonly token: string;
  readonly assignment: Assignment;
  /** It is an address of their own: their teacher knows who hands in. */
  readonly named: boolean;
  readonly teacherName: string;
}

const ACCEPT =
  'image/*,audio/*,video/*,.pdf,.txt,.md,.doc,.docx,.odt,.xls,.xlsx,.ods,.ppt,.pptx,.odp';

/** Where something is handed in: typed, chosen, said or shown. */
export const SubmissionForm = ({
  token,
  assignment: { by, dueAt },
  named,
  teacherName,
}: SubmissionProps) => {
  const work = useSubmission(token, named);
  const { t, size: sizeText } = useText();
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
          label={t('submission.name')}
          maxLength={60}
          value={work.name}
          onChangeText={(name) => work.write({ name })}
        />
      )}
      {by.includes('words') ? (
        <Field
          label={t('submission.text')}
          multiline
          maxLength={MOST_SUBMISSION_SIGNS}
          value={work.text}
          onChangeText={(text) => work.write({ text })}
        />
      ) : null}
      {work.files.length > 0 ? (
        <View role="list" aria-label={t('submission.files')} style={styles.form}>
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
            work.add(
              open,
              t(open === 'voice' ? 'submission.voiceFile' : 'submission.cameraFile'),
              bytes,
            );
            setOpen(null);
          }}
          onClose={() => setOpen(null)}
        />
      ) : room ? (
        <View style={styles.line}>
          {by.includes('file') ? (
            <Button
              small
              label={t('submission.addFile')}
              onPress={() => chooser.current?.click()}
            />
          ) : null}
          {by.includes('voice') ? (
            <Button small label={t('submission.recordVoice')} onPress={() => setOpen('voice')} />
          ) : null}
          {by.includes('camera') ? (
            <Button small label={t('submission.recordCamera')} onPress={() => setOpen('camera')} />
          ) : null}
        </View>
      ) : (
        <Words size="small" tone="soft">
          {t('submission.mostFiles', { count: MOST_FILES })}
        </Words>
      )}
      <FileInput
        ref={chooser}
        label={t('submission.files')}
        accept={ACCEPT}
        multiple
        onFiles={choose}
      />
      {tooLarge === null ? null : (
        <Words tone="warn" role="alert">
          {t('submission.tooLarge', { name: tooLarge, size: sizeText(MOST_FILE_BYTES) })}
        </Words>
      )}
      <View style={styles.line}>
        <Button
          kind="main"
          label={work.given ? t('submission.submitAgain') : t('submission.submit')}
          disabled={nothing || unfit || needsName || work.isGiven || work.pressed || open !== null}
          onPress={work.submission}
        />
      </View>
      <View role="status">
        <HowItStands work={work} dueAt={dueAt} />
        {open !== null && !nothing ? (
          <Words size="small" tone="soft">
            {t('submission.finishRecording')}
          </Words>
        ) : null}
        {needsName && !nothing ? (
          <Words size="small" tone="soft">
            {t('submission.needsName')}
          </Words>
        ) : null}
      </View>
      {work.problem ? <ProblemNotice code={work.problem} /> : null}
      <Words size="small" tone="soft">
        {teacherName
          ? t('submission.privacyNamed', { teacher: teacherName })
          : t('submission.privacyTeacher')}
      </Words>
    </View>
  );
};

/** How it stands with what is handed in, in words. */
const HowItStands = ({ work, dueAt }: { work: SubmissionWork; dueAt: string | null }) => {
  const { given, pressed, isGiven } = work;
  const { t, when } = useText();
  if (pressed)
    return (
      <Words size="small" tone="soft">
        {t('submission.pending')}
      </Words>
    );
  if (!given) return null;
  const submitted = isLate(given.at, dueAt) ? 'submission.submittedLate' : 'submission.submitted';
  return (
    <>
      <Words tone="good">{t(submitted, { when: when(given.at) })}</Words>
      {isGiven ? null : (
        <Words size="small" tone="warn">
          {t('submission.changed')}
        </Words>
      )}
    </>
  );
};

const FileLine = ({ file, work }: { file: FileToSubmit; work: SubmissionWork }) => {
  const { id, name, state, bytes, problem } = file;
  const percent = Math.floor((work.done[id] ?? 0) * 100);
  const text = useText();
  const { t } = text;
  const size = text.size(bytes);
  const stands = {
    coming:
      percent === 0
        ? t('submission.fileWaiting', { size })
        : t('submission.fileSending', { size, done: percent / 100 }),
    there: t('submission.fileThere', { size }),
    refused: problem === null ? t('submission.fileRefused') : text.problem(problem).message,
    gone: t('submission.fileGone'),
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
      <Button
        small
        label={t('submission.removeFile')}
        spoken={t('submission.removeFileSpoken', { name })}
        onPress={() => work.drop(id)}
      />
    </Row>
  );
};

const styles = StyleSheet.create({
  form: { gap: SPACE.small },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small },
  file: { flex: 1, gap: SPACE.hair },
  name: { ...({ overflowWrap: 'anywhere' } as object) },
});
