import { useQuery } from '@tanstack/react-query';
import { type Href } from 'expo-router';
import { useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { JoinedSite } from '@under-chalk/core/contract/course-sites';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { Failed, Loading, Screen } from '../../ui/screen';
import { Heading, Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { WayBack } from '../../ui/way-back';
import { JoinByItself } from './join-by-itself';
import { JoinedRow } from './joined-row';
import { OurAddresses } from './our-addresses';
import { SiteForm } from './site-form';

/** How often is looked whether a site has joined, or has its scores, ms. */
const LOOK_MS = 3_000;

/** Sites that courses are in, and that send their people here. */
export const CourseSitesPage = () => {
  /** Those that there were when another is being joined; null: none is. */
  const [before, setBefore] = useState<ReadonlySet<string> | null>(null);
  const sites = useQuery({
    ...{ queryKey: KEYS.courseSites, queryFn: () => call('courseSites') },
    // It joins in another page than this; scores are given elsewhere, too.
    refetchInterval: ({ state }) =>
      before || state.data?.some(({ scores }) => scores.waiting > 0) ? LOOK_MS : false,
  });
  return (
    <Screen name="Course sites" head={<WayBack label="Classes" to={'/classes' as Href} />}>
      <Heading level={1}>Course sites</Heading>
      <Words tone="soft">
        A course site that knows LTI 1.3 sends its people here: students are known without a
        password, films are chosen in its own editor, and a class has its students from there.
      </Words>
      {sites.data ? (
        <Shown
          sites={sites.data}
          before={before}
          onJoin={(joins) => setBefore(joins ? new Set(sites.data.map(({ id }) => id)) : null)}
        />
      ) : sites.error ? (
        <Failed code={codeOf(sites.error)} onRetry={() => void sites.refetch()} />
      ) : (
        <Loading what="the course sites" />
      )}
    </Screen>
  );
};

interface ShownProps {
  readonly sites: readonly JoinedSite[];
  readonly before: ReadonlySet<string> | null;
  readonly onJoin: (joins: boolean) => void;
}

const Shown = ({ sites, before, onJoin }: ShownProps) => {
  const [typedIn, setTypedIn] = useState(false);
  const byItself = before && sites.find(({ id }) => !before.has(id));
  const button = useFocusWhen(typedIn || Boolean(byItself));
  return (
    <>
      {sites.length === 0 ? (
        <Words>None is joined yet.</Words>
      ) : (
        <View role="list" aria-label="Course sites" style={styles.group}>
          {sites.map((site) => (
            <JoinedRow key={site.id} site={site} />
          ))}
        </View>
      )}
      <Words role="status">{byItself ? `${byItself.name} has joined.` : ''}</Words>
      {before && !byItself ? (
        <View style={styles.group}>
          <Heading level={2}>Join a course site</Heading>
          <JoinByItself />
          <View style={styles.next}>
            <Heading level={2}>Or by hand</Heading>
          </View>
          <OurAddresses />
          <SiteForm
            site={null}
            onDone={(isJoined) => {
              onJoin(false);
              setTypedIn(isJoined);
            }}
          />
        </View>
      ) : (
        <View style={styles.line}>
          <Button
            ref={button}
            label="Join a course site"
            onPress={() => {
              setTypedIn(false);
              onJoin(true);
            }}
          />
        </View>
      )}
    </>
  );
};

const styles = StyleSheet.create({
  group: { gap: SPACE.small },
  line: { flexDirection: 'row' },
  next: { paddingTop: SPACE.medium },
});
