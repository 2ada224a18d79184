import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRouter } from 'expo-router';
import { Controller, useForm } from 'react-hook-form';
import { View } from 'react-native';
import type { Session } from '@under-chalk/core/contract/session';
import * as z from 'zod';
import { call, codeOf } from '../../data/client';
import { KEYS, useSession } from '../../data/queries';
import { useTeacherText, type TeacherMessageId } from '../../messages/use-text';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { MailSection } from '../mail/mail-server';
import { BackToLessons } from '../lessons/back-to-lessons';
import { LIMITS, typedName, typedPassphrase } from './credentials';

/** The teacher's own: name, passphrase, signing out. */
export const YouPage = () => {
  const session = useSession();
  const { t } = useTeacherText();
  return (
    <Screen name={t('account.title')} head={<BackToLessons />}>
      <Heading level={1}>{t('account.title')}</Heading>
      {session.data ? (
        <>
          <Name session={session.data} />
          <MailSection />
          {session.data.demo ? (
            <Words tone="soft">{t('account.demo')}</Words>
          ) : (
            <>
              <Passphrase />
              <SignOut />
            </>
          )}
        </>
      ) : session.error ? (
        <Failed code={codeOf(session.error)} onRetry={() => void session.refetch()} />
      ) : (
        <Loading />
      )}
    </Screen>
  );
};

const nameForm = z.object({
  teacherName: typedName,
});

const Name = ({ session }: { session: Session }) => {
  const client = useQueryClient();
  const { t } = useTeacherText();
  const form = useForm({
    resolver: zodResolver(nameForm),
    defaultValues: { teacherName: session.teacherName },
  });
  const save = useMutation({
    mutationFn: (body: { teacherName: string }) => call('setTeacher', { body }),
    onSuccess: (now) => client.setQueryData(KEYS.session, now),
  });
  const submit = form.handleSubmit((body) => save.mutate(body));
  return (
    <View style={{ gap: SPACE.small, alignItems: 'stretch' }}>
      <Controller
        control={form.control}
        name="teacherName"
        render={({ field, fieldState }) => (
          <Field
            ref={field.ref}
            label={t('account.name')}
            autoComplete="name"
            value={field.value}
            onChangeText={field.onChange}
            onSubmitEditing={() => void submit()}
            problem={fieldState.error && t(fieldState.error.message as TeacherMessageId, LIMITS)}
          />
        )}
      />
      <Button
        label={t('account.saveName')}
        onPress={() => void submit()}
        disabled={save.isPending}
      />
      {save.error ? <ProblemNotice code={codeOf(save.error)} /> : null}
      {save.isSuccess ? <Notice tone="good" title={t('account.nameSaved')} /> : null}
    </View>
  );
};

const passphraseForm = z.object({
  now: z.string().min(1, 'account.currentMissing' satisfies TeacherMessageId),
  next: typedPassphrase,
});

const PASSPHRASES = [
  { name: 'now', label: 'account.currentPassphrase', complete: 'current-password' },
  { name: 'next', label: 'account.nextPassphrase', complete: 'new-password' },
] as const;

const Passphrase = () => {
  const { t } = useTeacherText();
  const form = useForm({
    resolver: zodResolver(passphraseForm),
    defaultValues: { now: '', next: '' },
  });
  const save = useMutation({
    mutationFn: (body: { now: string; next: string }) => call('setPassphrase', { body }),
    onSuccess: () => form.reset(),
  });
  const submit = form.handleSubmit((body) => save.mutate(body));
  return (
    <View style={{ gap: SPACE.small, alignItems: 'stretch' }}>
      <Heading level={2}>{t('account.newPassphrase')}</Heading>
      {PASSPHRASES.map(({ name, label, complete }) => (
        <Controller
          key={name}
          control={form.control}
          name={name}
          render={({ field, fieldState }) => (
            <Field
              ref={field.ref}
              label={t(label)}
              secureTextEntry
              autoComplete={complete}
              value={field.value}
              onChangeText={field.onChange}
              onSubmitEditing={() => void submit()}
              problem={fieldState.error && t(fieldState.error.message as TeacherMessageId, LIMITS)}
            />
          )}
        />
      ))}
      <Button
        label={t('account.newPassphrase')}
        onPress={() => void submit()}
        disabled={save.isPending}
      />
      {save.error ? <ProblemNotice code={codeOf(save.error)} /> : null}
      {save.isSuccess ? (
        <Notice
          tone="good"
          title={t('account.passphraseChanged')}
          text={t('account.othersSignedOut')}
        />
      ) : null}
    </View>
  );
};

const SignOut = () => {
  const { t } = useTeacherText();
  const client = useQueryClient();
  const router = useRouter();
  const out = useMutation({
    mutationFn: () => call('signOut'),
    onSuccess: () => {
      client.clear();
      router.replace('/sign-in');
    },
  });
  return (
    <View style={{ gap: SPACE.small, alignItems: 'stretch' }}>
      <Heading level={2}>{t('account.thisBrowser')}</Heading>
      <Button label={t('account.signOut')} onPress={() => out.mutate()} disabled={out.isPending} />
      {out.error ? <ProblemNotice code={codeOf(out.error)} /> : null}
    </View>
  );
};
