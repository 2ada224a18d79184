import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import {
  mailServerSchema,
  type MailServer,
  type MailSettings,
} from '@under-chalk/core/contract/mail';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import { useTeacherText } from '../../messages/use-text';
import { Button } from '../../ui/button';
import { Choices } from '../../ui/choices';
import { Field } from '../../ui/field';
import { Notice, ProblemNotice } from '../../ui/notice';
import { Failed, Loading } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { TestInboxLink } from './test-inbox-link';

/** The ports that mail servers take e-mails at, by how the way there is closed (RFC 8314). */
const PORTS = { tls: 465, starttls: 587 } as const;

/** Which server e-mails to students go through. */
export const MailSection = () => {
  const { t } = useTeacherText();
  const settings = useQuery({ queryKey: KEYS.mail, queryFn: () => call('mailSettings') });
  return (
    <View style={styles.group}>
      <Heading level={2}>{t('mail.title')}</Heading>
      {settings.data ? (
        <Shown key={settings.data.server?.host ?? ''} settings={settings.data} />
      ) : settings.error ? (
        <Failed code={codeOf(settings.error)} onRetry={() => void settings.refetch()} />
      ) : (
        <Loading />
      )}
    </View>
  );
};

const Shown = ({ settings }: { settings: MailSettings }) => {
  const client = useQueryClient();
  const { server } = settings;
  const { t } = useTeacherText();
  const [giving, setGiving] = useState(false);
  const forget = useMutation({
    mutationFn: () => call('setMailSettings', { body: { server: null } }),
    onSuccess: (now) => client.setQueryData(KEYS.mail, now),
  });
  const attempt = useMutation({ mutationFn: () => call('sendTestMail') });
  if (giving) return <Giving settings={settings} onDone={() => setGiving(false)} />;
  return (
    <View style={styles.group}>
      <Words tone="soft">
        {server
          ? t('mail.byServer', { host: server.host, from: server.from })
          : t('mail.byTestInbox')}
      </Words>
      <View style={styles.line}>
        <Button
          small
          label={t(server ? 'mail.changeServer' : 'mail.addServer')}
          onPress={() => setGiving(true)}
        />
        {server ? (
          <>
            <Button
              small
              label={t('mail.sendTest')}
              disabled={attempt.isPending}
              onPress={() => attempt.mutate()}
            />
            <Button
              small
              kind="grave"
              label={t('mail.removeServer')}
              disabled={forget.isPending}
              onPress={() => forget.mutate()}
            />
          </>
        ) : null}
        <TestInboxLink />
      </View>
      {attempt.isSuccess ? (
        <Notice tone="good" title={t('mail.testSent')} text={t('mail.testSentHelp')} />
      ) : null}
      {[attempt.error, forget.error].map((error, index) =>
        error ? <ProblemNotice key={index} code={codeOf(error)} /> : null,
      )}
    </View>
  );
};

const Giving = ({ settings, onDone }: { settings: MailSettings; onDone: () => void }) => {
  const client = useQueryClient();
  const before = settings.server;
  const { t } = useTeacherText();
  const [typed, setTyped] = useState({
    host: before?.host ?? '',
    port: String(before?.port ?? PORTS.tls),
    user: before?.user ?? '',
    from: before?.from ?? '',
  });
  const [security, setSecurity] = useState<MailServer['security']>(before?.security ?? 'tls');
  const [password, setPassword] = useState('');
  const read = mailServerSchema.safeParse({ ...typed, port: Number(typed.port), security });
  const wrong = new Set(read.success ? [] : read.error.issues.map(({ path }) => path[0]));
  const [asked, setAsked] = useState(false);
  const save = useMutation({
    mutationFn: (server: MailServer) =>
      call('setMailSettings', {
        body: { server, ...(password === '' ? {} : { password }) },
      }),
    onSuccess: (now) => {
      client.setQueryData(KEYS.mail, now);
      onDone();
    },
  });
  const submit = () => {
    setAsked(true);
    if (read.success) save.mutate(read.data);
  };
  const field = (name: keyof typeof typed, more: object = {}) => (
    <Field
      label={t(`mail.${name}`)}
      value={typed[name]}
      onChangeText={(text) => setTyped({ ...typed, [name]: text })}
      onSubmitEditing={submit}
      maxLength={254}
      problem={asked && wrong.has(name) ? t(`mail.${name}Wrong`) : undefined}
      {...more}
    />
  );
  return (
    <View style={styles.group}>
      {field('from', { inputMode: 'email' })}
      {field('host', { hint: t('mail.hostHelp'), autoCapitalize: 'none' })}
      <Choices
        label={t('mail.encryption')}
        choices={[
          { value: 'tls', label: 'TLS' },
          { value: 'starttls', label: 'STARTTLS' },
        ]}
        value={security}
        onChoose={(value) => {
          setSecurity(value);
          setTyped({ ...typed, port: String(PORTS[value]) });
        }}
      />
      {field('port', { inputMode: 'numeric' })}
      {field('user', { hint: t('mail.userHelp'), autoCapitalize: 'none' })}
      <Field
        label={t('mail.password')}
        hint={settings.hasPassword ? t('mail.passwordHelp') : ''}
        secureTextEntry
        autoComplete="off"
        value={password}
        onChangeText={setPassword}
        onSubmitEditing={submit}
        maxLength={400}
      />
      <View style={styles.line}>
        <Button label={t('mail.save')} disabled={save.isPending} onPress={submit} />
        <Button label={t('mail.cancel')} onPress={onDone} />
      </View>
      {save.error ? <ProblemNotice code={codeOf(save.error)} /> : null}
    </View>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  line: { flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', gap: SPACE.small },
});
