import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useLocalSearchParams, useRouter, type Href } from 'expo-router';
import { Controller, useForm } from 'react-hook-form';
import * as z from 'zod';
import { call, codeOf } from '../../data/client';
import { KEYS, useSession } from '../../data/queries';
import { useTeacherText, type TeacherMessageId } from '../../messages/use-text';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { ProblemNotice } from '../../ui/notice';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { LIMITS, typedName, typedPassphrase } from '../account/credentials';

/** The one page before the others: sets the passphrase at the first start, and asks for it later. */
export const SignInPage = () => {
  const session = useSession();
  const { t } = useTeacherText();
  return (
    <Screen name={t(session.data?.setUp === false ? 'signIn.firstStart' : 'signIn.signIn')}>
      {session.data ? (
        session.data.setUp ? (
          <SignIn />
        ) : (
          <SetUp />
        )
      ) : session.error ? (
        <Failed code={codeOf(session.error)} onRetry={() => void session.refetch()} />
      ) : (
        <Loading />
      )}
    </Screen>
  );
};

/** The page that was asked for before signing in: one of this app, or the first. */
const wanted = (to: string | undefined): Href =>
  (to !== undefined && /^\/(?![/\\])/.test(to) && !to.startsWith('/sign-in') ? to : '/') as Href;

const useEnter = <T,>(enter: (value: T) => Promise<unknown>) => {
  const client = useQueryClient();
  const router = useRouter();
  const { to } = useLocalSearchParams<{ to?: string }>();
  return useMutation({
    mutationFn: enter,
    onSuccess: (session) => {
      client.setQueryData(KEYS.session, session);
      router.replace(wanted(to));
    },
  });
};

const SignIn = () => {
  const { t } = useTeacherText();
  const enter = useEnter((passphrase: string) => call('signIn', { body: { passphrase } }));
  const form = useForm({ defaultValues: { passphrase: '' } });
  const submit = form.handleSubmit(({ passphrase }) => enter.mutate(passphrase));
  return (
    <>
      <Heading level={1}>{t('signIn.app')}</Heading>
      <Controller
        control={form.control}
        name="passphrase"
        rules={{ required: true }}
        render={({ field, fieldState }) => (
          <Field
            ref={field.ref}
            label={t('signIn.passphrase')}
            secureTextEntry
            autoComplete="current-password"
            value={field.value}
            onChangeText={field.onChange}
            onSubmitEditing={() => void submit()}
            problem={fieldState.error ? t('signIn.passphraseMissing') : undefined}
          />
        )}
      />
      {enter.error ? <ProblemNotice code={codeOf(enter.error)} /> : null}
      <Button
        kind="main"
        label={t(enter.isPending ? 'signIn.signingIn' : 'signIn.signIn')}
        onPress={() => void submit()}
        disabled={enter.isPending}
      />
      <Words size="small" tone="soft">
        {t('signIn.forgotten')}
      </Words>
    </>
  );
};

const setUpForm = z
  .object({
    teacherName: typedName,
    passphrase: typedPassphrase,
    again: z.string(),
    code: z
      .string()
      .trim()
      .min(1, 'signIn.codeMissing' satisfies TeacherMessageId),
  })
  .refine((form) => form.again === form.passphrase, {
    path: ['again'],
    error: 'signIn.notTheSame' satisfies TeacherMessageId,
  });

const FIELDS = [
  { name: 'teacherName', label: 'account.name', secure: false, hint: null },
  {
    name: 'passphrase',
    label: 'signIn.passphrase',
    secure: true,
    hint: 'signIn.choosePassphraseHelp',
  },
  { name: 'again', label: 'signIn.again', secure: true, hint: null },
  {
    name: 'code',
    label: 'signIn.code',
    secure: false,
    hint: 'signIn.codeHelp',
  },
] as const;

const SetUp = () => {
  const { t } = useTeacherText();
  const { code = '' } = useLocalSearchParams<{ code?: string }>();
  const form = useForm({
    resolver: zodResolver(setUpForm),
    defaultValues: { code, teacherName: '', passphrase: '', again: '' },
  });
  const enter = useEnter((body: { code: string; teacherName: string; passphrase: string }) =>
    call('setUp', { body }),
  );
  const submit = form.handleSubmit(({ code: typed, teacherName, passphrase }) =>
    enter.mutate({ code: typed, teacherName, passphrase }),
  );
  return (
    <>
      <Heading level={1}>{t('signIn.setUp')}</Heading>
      <Words>{t('signIn.setUpHelp')}</Words>
      {FIELDS.map(({ name, label, secure, hint }) => (
        <Controller
          key={name}
          control={form.control}
          name={name}
          render={({ field, fieldState }) => (
            <Field
              ref={field.ref}
              label={t(label)}
              hint={hint ? t(hint, LIMITS) : undefined}
              secureTextEntry={secure}
              autoComplete={secure ? 'new-password' : 'off'}
              value={field.value}
              onChangeText={field.onChange}
              onSubmitEditing={() => void submit()}
              problem={fieldState.error && t(fieldState.error.message as TeacherMessageId, LIMITS)}
            />
          )}
        />
      ))}
      {enter.error ? <ProblemNotice code={codeOf(enter.error)} /> : null}
      <Button
        kind="main"
        label={t('signIn.finish')}
        onPress={() => void submit()}
        disabled={enter.isPending}
      />
    </>
  );
};
