import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRouter } from 'expo-router';
import { Controller, useForm } from 'react-hook-form';
import { View } from 'react-native';
import type { Session } from '@under-chalk/core/contract/session';
import * as z from 'zod';
import { call, codeOf } from '../../data/client';
import { KEYS, useSession } from '../../data/queries';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { MailSection } from '../mail/mail-server';
import { BackToLessons } from '../lessons/back-to-lessons';
import { typedName, typedPassphrase } from './own-words';

/** The teacher's own: name, passphrase, signing out. */
export const YouPage = () => {
  const session = useSession();
  return (
    <Screen name="You" head={<BackToLessons />}>
      <Heading level={1}>You</Heading>
      {session.data ? (
        <>
          <Name session={session.data} />
          <MailSection />
          {session.data.demo ? (
            <Words tone="soft">
              This is the demo: it is open to whoever sits at this computer, and has no passphrase.
            </Words>
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
        <Loading what="who you are" />
      )}
    </Screen>
  );
};

const nameForm = z.object({
  teacherName: typedName,
});

const Name = ({ session }: { session: Session }) => {
  const client = useQueryClient();
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
            label="Your name, as students see it"
            autoComplete="name"
            value={field.value}
            onChangeText={field.onChange}
            onSubmitEditing={() => void submit()}
            problem={fieldState.error?.message}
          />
        )}
      />
      <Button label="Save the name" onPress={() => void submit()} disabled={save.isPending} />
      {save.error ? <ProblemNotice code={codeOf(save.error)} /> : null}
      {save.isSuccess ? <Notice tone="good" title="The name is saved." /> : null}
    </View>
  );
};

const passphraseForm = z.object({
  now: z.string().min(1, 'Type the passphrase that you have.'),
  next: typedPassphrase,
});

const PASSPHRASES = [
  { name: 'now', label: 'The passphrase you have', complete: 'current-password' },
  { name: 'next', label: 'The new one', complete: 'new-password' },
] as const;

const Passphrase = () => {
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
      <Heading level={2}>Another passphrase</Heading>
      {PASSPHRASES.map(({ name, label, complete }) => (
        <Controller
          key={name}
          control={form.control}
          name={name}
          render={({ field, fieldState }) => (
            <Field
              ref={field.ref}
              label={label}
              secureTextEntry
              autoComplete={complete}
              value={field.value}
              onChangeText={field.onChange}
              onSubmitEditing={() => void submit()}
              problem={fieldState.error?.message}
            />
          )}
        />
      ))}
      <Button
        label="Change the passphrase"
        onPress={() => void submit()}
        disabled={save.isPending}
      />
      {save.error ? <ProblemNotice code={codeOf(save.error)} /> : null}
      {save.isSuccess ? (
        <Notice
          tone="good"
          title="The passphrase is changed."
          text="All other browsers have been signed out."
        />
      ) : null}
    </View>
  );
};

const SignOut = () => {
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
      <Heading level={2}>This browser</Heading>
      <Button label="Sign out" onPress={() => out.mutate()} disabled={out.isPending} />
      {out.error ? <ProblemNotice code={codeOf(out.error)} /> : null}
    </View>
  );
};
