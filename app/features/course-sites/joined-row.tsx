import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { JoinedSite, SiteCourse } from '@under-chalk/core/contract/course-sites';
import { call, codeOf } from '../../data/client';
import { KEYS, useClasses } from '../../data/queries';
import { Button } from '../../ui/button';
import { ChoiceLine } from '../../ui/choice-line';
import { Choices } from '../../ui/choices';
import { counted } from '../../ui/counted';
import { Menu } from '../../ui/menu';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { RADIUS, SPACE, useTheme } from '../../ui/theme';
import { SamePeople } from './same-person';
import { SiteForm } from './site-form';
import { SiteScores } from './site-scores';

/** A course site that is joined, and the courses that somebody has come from. */
export const JoinedRow = ({ site }: { site: JoinedSite }) => {
  const theme = useTheme();
  const client = useQueryClient();
  const [changing, setChanging] = useState(false);
  const [parting, setParting] = useState(false);
  const part = useMutation({
    mutationFn: () => call('removeCourseSite', { params: { siteId: site.id } }),
    onSuccess: (all) => client.setQueryData(KEYS.courseSites, all),
  });
  return (
    <View
      role="listitem"
      style={[styles.row, { borderColor: theme.line, backgroundColor: theme.card }]}
    >
      <View style={styles.line}>
        <View style={styles.words}>
          <Words strong>{site.name}</Words>
          <Words size="small" tone={site.damaged ? 'bad' : 'soft'} style={styles.address}>
            {site.damaged
              ? 'Its details can’t be read, and nobody can come from it. Remove it, and join the site again.'
              : site.issuer}
          </Words>
        </View>
        <Menu
          of={site.name}
          items={[
            ...(site.damaged
              ? []
              : [{ label: 'Change what is known of it', onPress: () => setChanging(true) }]),
            { label: 'Part from it…', onPress: () => setParting(true) },
          ]}
        />
      </View>
      {changing ? <SiteForm site={site} onDone={() => setChanging(false)} /> : null}
      {parting ? (
        <View style={styles.group}>
          <Words>
            Nobody comes from it any more, and its links lead nowhere. Students and classes stay.
          </Words>
          <View style={styles.line}>
            <Button
              small
              kind="grave"
              label="Part from it"
              disabled={part.isPending}
              onPress={() => part.mutate()}
            />
            <Button small label="Stay joined" onPress={() => setParting(false)} />
          </View>
        </View>
      ) : null}
      {site.damaged ? null : site.courses.length === 0 ? (
        <Words size="small" tone="soft">
          Nobody has come from it yet. Open Under Chalk there once, in the course’s editor: then the
          course stands here.
        </Words>
      ) : (
        site.courses.map((course) => (
          <Course key={course.courseId} siteId={site.id} course={course} />
        ))
      )}
      <SamePeople site={site} />
      <SiteScores site={site} />
      {part.error ? <ProblemNotice code={codeOf(part.error)} /> : null}
    </View>
  );
};

const broughtInWords = (people: number, added: number): string =>
  `${counted(people, 'student')} in the course, ${added === 0 ? 'none' : added} of them new here.`;

const NONE = '';

/** A course, the class that its people are of, and its roster. */
const Course = ({ siteId, course }: { siteId: string; course: SiteCourse }) => {
  const client = useQueryClient();
  const classes = useClasses().data ?? [];
  const { courseId, title, classId, hasRoster } = course;
  const name = title || courseId;
  const set = useMutation({
    mutationFn: (chosen: string | null) =>
      call('setSiteCourse', { params: { siteId }, body: { courseId, classId: chosen } }),
    onSuccess: (all) => client.setQueryData(KEYS.courseSites, all),
  });
  const bring = useMutation({
    mutationFn: () => call('syncRoster', { params: { siteId }, body: { courseId } }),
    onSuccess: () => client.invalidateQueries({ queryKey: KEYS.classes }),
  });
  const theirs = classes.find(({ id }) => id === classId);
  return (
    <View style={styles.group}>
      <ChoiceLine
        label={`Class for “${name}”`}
        value={theirs?.name ?? 'none yet'}
        tone={theirs ? 'ink' : 'warn'}
      >
        <Choices
          label={`Class for “${name}”`}
          hideLabel
          stacked
          choices={[
            ...classes.map(({ id, name: className }) => ({ value: id, label: className })),
            { value: NONE, label: 'none', hint: 'Nobody is let in from this course.' },
          ]}
          value={classId ?? NONE}
          onChoose={(value) => set.mutate(value === NONE ? null : value)}
        />
      </ChoiceLine>
      {theirs && hasRoster ? (
        <View style={styles.line}>
          <Button
            small
            label="Bring its students in"
            spoken={`Bring the students of ${name} in`}
            disabled={bring.isPending}
            onPress={() => bring.mutate()}
          />
          <Words size="small" role="status">
            {bring.data ? broughtInWords(bring.data.people, bring.data.added) : ''}
          </Words>
        </View>
      ) : null}
      {[set.error, bring.error].map((error, index) =>
        error ? <ProblemNotice key={index} code={codeOf(error)} /> : null,
      )}
    </View>
  );
};

const styles = StyleSheet.create({
  row: { borderWidth: 1, borderRadius: RADIUS.medium, padding: SPACE.medium, gap: SPACE.small },
  line: { flexDirection: 'row', flexWrap: 'wrap', gap: SPACE.small, alignItems: 'center' },
  words: { flexGrow: 1, flexShrink: 1 },
  address: { ...({ overflowWrap: 'anywhere' } as object) },
  group: { gap: SPACE.small },
});
