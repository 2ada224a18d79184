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
import { JoinedRow } from './joined-row';
import { OurAddresses } from './our-addresses';
import { SiteForm } from './site-form';

/** Sites that courses are in, and that send their people here. */
export const CourseSitesPage = () => {
  const sites = useQuery({ queryKey: KEYS.courseSites, queryFn: () => call('courseSites') });
  return (
    <Screen name="Course sites" head={<WayBack label="Classes" to={'/classes' as Href} />}>
      <Heading level={1}>Course sites</Heading>
      <Words tone="soft">
        A course site that knows LTI 1.3 sends its people here: students are known without a
        password, films are chosen in its own editor, and a class has its students from there.
      </Words>
      {sites.data ? (
        <Shown sites={sites.data} />
      ) : sites.error ? (
        <Failed code={codeOf(sites.error)} onRetry={() => void sites.refetch()} />
      ) : (
        <Loading what="the course sites" />
      )}
    </Screen>
  );
};

const Shown = ({ sites }: { sites: readonly JoinedSite[] }) => {
  const [open, setOpen] = useState(false);
  const [joined, setJoined] = useState(false);
  const button = useFocusWhen(joined);
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
      {open ? (
        <View style={styles.group}>
          <Heading level={2}>Join a course site</Heading>
          <OurAddresses />
          <SiteForm
            site={null}
            onDone={(isJoined) => {
              setOpen(false);
              setJoined(isJoined);
            }}
          />
        </View>
      ) : (
        <View style={styles.line}>
          <Button
            ref={button}
            label="Join a course site"
            onPress={() => {
              setJoined(false);
              setOpen(true);
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
});
