import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { embedCode } from '@under-chalk/core/share-link/embed-code';
import { aspectOf } from '@under-chalk/core/lesson/layout';
import { codeOf } from '../../data/client';
import {
  usePublishVersion,
  useAllowDownloads,
  useRetryFilm,
  useRevokeLink,
} from '../../data/queries';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { Menu } from '../../ui/menu';
import { dateTimeInWords } from '../../ui/date-time';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { useThisLesson } from '../lessons/lesson-layout';
import { COPIED_WORDS, copyText, type Copied } from '../../ui/copy-text';
import { addressOf, copyLink } from './copy-link';
import { SIZE_NAMES } from './film-words';
import { EarlierVersions } from './earlier-versions';
import { LinkVersions } from './link-versions';
import { LinkAssignment } from './link-assignment';
import { LinkSubmissions } from './link-submissions';
import { LinkMail } from './link-mail';
import { LinkMaterials } from './link-materials';
import { LinkTimes } from './link-times';
import { LinkViewing } from './link-viewing';
import { LinkAudience } from './link-audience';
import { isForAnyone, audienceInWords } from './audience-words';
import { QrCode } from './qr-code';

/** Who can watch at this moment, in words. */
const openWords = ({ state, availableFrom, availableUntil, watchers }: ShareLink): string => {
  // Else that stands above it already.
  const grantee = isForAnyone(watchers) ? ` to ${audienceInWords(watchers)}` : '';
  if (state === 'not-yet') return `Opens ${dateTimeInWords(availableFrom!)}${grantee}`;
  if (state === 'over') return `Closed since ${dateTimeInWords(availableUntil!)}`;
  const until = availableUntil === null ? '' : `, until ${dateTimeInWords(availableUntil)}`;
  return `Open${grantee}${until}`;
};

/** How many of those that it is for by name have opened it. */
const openedWords = ({ opened }: ShareLink): string =>
  opened.students === opened.of
    ? 'All of them have opened it.'
    : `${opened.students} of ${opened.of} have opened it.`;

/** What is open below a link. */
type Panel =
  | 'watchers'
  | 'watched'
  | 'assignment'
  | 'submissions'
  | 'mail'
  | 'times'
  | 'given'
  | 'materials'
  | 'wall-code';

interface Props {
  readonly shareLink: ShareLink;
  /** Made just now: whether it was copied; null for an older one. */
  readonly made: Copied | null;
  readonly onTaken: () => void;
}

/** A link, and what can be done with it. */
export const LinkRow = ({ shareLink, made, onTaken }: Props) => {
  const theme = useTheme();
  const { lesson } = useThisLesson();
  const revoke = useRevokeLink(lesson.id);
  const again = usePublishVersion(lesson.id);
  const letSave = useAllowDownloads(lesson.id);
  const [copiedNow, setCopied] = useState<Copied | null>(null);
  const [open, setOpen] = useState<Panel | null>(null);
  const copied = copiedNow ?? made ?? 'no';
  const copyButton = useFocusWhen(made !== null);
  const [isSet, setIsSet] = useState(false);
  const toDo = useFocusWhen(isSet);
  const { token, film, downloads, assignment, handedIn } = shareLink;
  const forAnyone = isForAnyone(shareLink.watchers);
  const { plan, frame } = lesson.decisions;
  const changed = film.revision < lesson.revision;
  const toggle = (panel: Panel) => {
    setIsSet(false);
    setOpen(open === panel ? null : panel);
  };
  const activityDone = () => {
    setOpen(null);
    setIsSet(true);
  };
  return (
    <View style={[styles.row, { borderColor: theme.line, backgroundColor: theme.card }]}>
      {!forAnyone ? (
        <Words strong>{`On the pages of ${audienceInWords(shareLink.watchers)}`}</Words>
      ) : token ? (
        <Words strong selectable testID="watch-address" style={styles.address}>
          {addressOf(token)}
        </Words>
      ) : (
        <Words tone="warn">
          This link works, but its address can’t be shown any more. Make a new one to pass on.
        </Words>
      )}
      <Words size="small" tone="soft">
        {`${openWords(shareLink)} · ${SIZE_NAMES[film.size]}${downloads ? ' · students can save it' : ''}`}
      </Words>
      {shareLink.opened.of > 0 ? <Words size="small">{openedWords(shareLink)}</Words> : null}
      <LinkFilm shareLink={shareLink} />
      {assignment ? (
        <View ref={toDo} {...({ tabIndex: -1 } as object)}>
          <Words size="small" numberOfLines={2}>
            {`To do afterwards${assignment.dueAt ? `, until ${dateTimeInWords(assignment.dueAt)}` : ''}: ${assignment.text}`}
          </Words>
        </View>
      ) : null}
      {changed ? (
        <>
          <Words size="small">The lesson has been changed since it was handed out here.</Words>
          <View style={styles.actions}>
            <Button
              small
              kind="main"
              label="Hand out the change under this link"
              disabled={again.isPending}
              onPress={() => again.mutate({ shareLinkId: shareLink.id, size: film.size })}
            />
          </View>
        </>
      ) : null}
      <EarlierVersions shareLink={shareLink} />
      <View style={styles.actions}>
        {token && forAnyone ? (
          <Button
            small
            ref={copyButton}
            label="Copy the link"
            onPress={() => void copyLink(token).then(setCopied)}
          />
        ) : (
          <Button small ref={copyButton} label="Viewers" onPress={() => toggle('watched')} />
        )}
        {assignment && assignment.by.length > 0 ? (
          <Button
            small
            label={`What was handed in (${handedIn})`}
            expanded={open === 'submissions'}
            onPress={() => toggle('submissions')}
          />
        ) : null}
        <Menu
          of="this link"
          items={[
            { label: 'Who may watch…', onPress: () => toggle('watchers') },
            ...(shareLink.opened.of > 0
              ? [{ label: 'Send e-mail…', onPress: () => toggle('mail') }]
              : []),
            ...(forAnyone ? [{ label: 'Viewers…', onPress: () => toggle('watched') }] : []),
            ...(token && forAnyone
              ? [
                  {
                    label: 'Open it as students do',
                    onPress: () => void window.open(addressOf(token), '_blank', 'noopener'),
                  },
                  { label: 'A code for the wall…', onPress: () => toggle('wall-code') },
                ]
              : []),
            { label: 'When it can be watched…', onPress: () => toggle('times') },
            {
              label: downloads ? 'Let nobody save it' : 'Let students save it',
              onPress: () => letSave.mutate({ shareLinkId: shareLink.id, downloads: !downloads }),
            },
            { label: 'To do afterwards…', onPress: () => toggle('assignment') },
            { label: 'Materials that go along…', onPress: () => toggle('materials') },
            ...(shareLink.given.length > 1
              ? [{ label: 'Films given before…', onPress: () => toggle('given') }]
              : []),
            ...(token && forAnyone
              ? [
                  {
                    label: 'Copy the code for a page',
                    onPress: () =>
                      void copyText(
                        embedCode(addressOf(token), plan.title, aspectOf(frame.shape)),
                      ).then(setCopied),
                  },
                ]
              : []),
          ]}
        />
        <View style={styles.apart}>
          <Button
            small
            kind="grave"
            label="Take it away"
            disabled={revoke.isPending}
            onPress={() => revoke.mutate(shareLink.id, { onSuccess: onTaken })}
          />
        </View>
      </View>
      {open === 'watchers' ? (
        <LinkAudience shareLink={shareLink} onDone={() => setOpen(null)} />
      ) : null}
      {open === 'watched' ? <LinkViewing shareLink={shareLink} /> : null}
      {open === 'mail' ? <LinkMail shareLink={shareLink} /> : null}
      {open === 'assignment' ? (
        <LinkAssignment shareLink={shareLink} onDone={activityDone} />
      ) : null}
      {open === 'submissions' ? <LinkSubmissions shareLink={shareLink} /> : null}
      {open === 'times' ? <LinkTimes shareLink={shareLink} onDone={() => setOpen(null)} /> : null}
      {open === 'materials' ? <LinkMaterials shareLink={shareLink} /> : null}
      {open === 'given' ? <LinkVersions shareLink={shareLink} /> : null}
      {open === 'wall-code' && token ? (
        <QrCode address={addressOf(token)} title={plan.title} onClose={() => setOpen(null)} />
      ) : null}
      {[revoke.error, again.error, letSave.error].map((error, index) =>
        error ? <ProblemNotice key={index} code={codeOf(error)} /> : null,
      )}
      <Words size="small" role="status">
        {COPIED_WORDS[copied]}
      </Words>
    </View>
  );
};

/** How it stands with the film under a link: it plays before all of it is made. */
const LinkFilm = ({ shareLink: { film } }: { shareLink: ShareLink }) => {
  const retry = useRetryFilm(film.lessonId);
  switch (film.state) {
    case 'done':
      return null;
    case 'waiting':
    case 'making':
      return (
        <Words size="small" tone="good" role="status">
          It plays already; what is still to be made is made while it plays.
        </Words>
      );
    case 'failed':
    case 'cancelled':
      return film.state === 'failed' ? (
        <ProblemNotice code={film.problem ?? 'export-failed'}>
          <Button small label="Try again" onPress={() => retry.mutate(film.id)} />
        </ProblemNotice>
      ) : (
        <View style={styles.actions}>
          <Words size="small" tone="warn">
            Its film was called off, so it can’t be watched.
          </Words>
          <Button small label="Make it after all" onPress={() => retry.mutate(film.id)} />
        </View>
      );
  }
};

const styles = StyleSheet.create({
  row: { borderWidth: 1, borderRadius: RADIUS.medium, padding: SPACE.medium, gap: SPACE.small },
  address: { ...({ overflowWrap: 'anywhere' } as object) },
  actions: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'center' },
  // Far from what is pressed most.
  apart: { ...({ marginInlineStart: 'auto' } as object) },
});
