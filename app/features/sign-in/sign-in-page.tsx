import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useLocalSearchParams, useRouter, type Href } from 'expo-router';
import { Controller, useForm } from 'react-hook-form';
import * as z from 'zod';
import { call, codeOf } from '../../data/client';
import { KEYS, useSession } from '../../data/queries';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { ProblemNotice } from '../../ui/notice';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { typedName, typedPassphrase } from '../account/own-words';

/** The one page before the others: sets the passphrase at the first start, and asks for it later. */
export const SignInPage = () => {
  const session = useSession();
  return (
    <Screen name={session.data?.setUp === false ? 'First start' : 'Sign in'}>
      {session.data ? (
        session.data.setUp ? (
          <SignIn />
        ) : (
          <SetUp />
        )
      ) : session.error ? (
        <Failed code={codeOf(session.error)} onRetry={() => void session.refetch()} />
      ) : (
        <Loading what="the door" />
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
  const enter = useEnter((passphrase: string) => call('signIn', { body: { passphrase } }));
  const form = useForm({ defaultValues: { passphrase: '' } });
  const submit = form.handleSubmit(({ passphrase }) => enter.mutate(passphrase));
  return (
    <>
      <Heading level={1}>Under Chalk</Heading>
      <Controller
        control={form.control}
        name="passphrase"
        rules={{ required: true }}
        render={({ field, fieldState }) => (
          <Field
            ref={field.ref}
            label="Passphrase"
            secureTextEntry
            autoComplete="current-password"
            value={field.value}
            onChangeText={field.onChange}
            onSubmitEditing={() => void submit()}
            problem={fieldState.error ? 'Type your passphrase first.' : undefined}
          />
        )}
      />
      {enter.error ? <ProblemNotice code={codeOf(enter.error)} /> : null}
      <Button
        kind="main"
        label={enter.isPending ? 'Signing in…' : 'Sign in'}
        onPress={() => void submit()}
        disabled={enter.isPending}
      />
      <Words size="small" tone="soft">
        Forgotten? Where Under Chalk runs, “npm run passphrase” sets a new one.
      </Words>
    </>
  );
};

const setUpForm = z
  .object({
    teacherName: typedName,
    passphrase: typedPassphrase,
    again: z.string(),
    code: z.string().trim().min(1, 'Type the code that was printed where the app was started.'),
  })
  .refine((form) => form.again === form.passphrase, {
    path: ['again'],
    error: 'The two are not the same.',
  });

const FIELDS = [
  { name: 'teacherName', label: 'Your name, as students see it', secure: false, hint: '' },
  {
    name: 'passphrase',
    label: 'A passphrase',
    secure: true,
    hint: 'At least ten characters. A short sentence is easy to keep.',
  },
  { name: 'again', label: 'The passphrase once more', secure: true, hint: '' },
  {
    name: 'code',
    label: 'Set-up code',
    secure: false,
    hint: 'Printed where the app was started.',
  },
] as const;

const SetUp = () => {
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
      <Heading level={1}>Make it yours</Heading>
      <Words>
        This Under Chalk belongs to nobody yet. Set a passphrase, and only who knows it gets in.
      </Words>
      {FIELDS.map(({ name, label, secure, hint }) => (
        <Controller
          key={name}
          control={form.control}
          name={name}
          render={({ field, fieldState }) => (
            <Field
              ref={field.ref}
              label={label}
              hint={hint}
              secureTextEntry={secure}
              autoComplete={secure ? 'new-password' : 'off'}
              value={field.value}
              onChangeText={field.onChange}
              onSubmitEditing={() => void submit()}
              problem={fieldState.error ? fieldState.error.message : undefined}
            />
          )}
        />
      ))}
      {enter.error ? <ProblemNotice code={codeOf(enter.error)} /> : null}
      <Button kind="main" label="Begin" onPress={() => void submit()} disabled={enter.isPending} />
    </>
  );
};
