import type { KEPT_DAYS } from '@under-chalk/core/contract/watched';
import {
  keepPreviousData,
  useMutation,
  useQuery,
  useQueryClient,
  type QueryClient,
} from '@tanstack/react-query';
import { pathTo } from '@under-chalk/core/contract/api';
import type { Class } from '@under-chalk/core/class/class';
import type { ClassView } from '@under-chalk/core/contract/classes';
import type { FilmRow } from '@under-chalk/core/contract/films';
import type { LessonView } from '@under-chalk/core/contract/lessons';
import { FIRST_DESTINATIONS, type Destinations } from '@under-chalk/core/destination/destination';
import { ATTENTION_US } from '@under-chalk/core/destination/gauge';
import type { Material } from '@under-chalk/core/material/material';
import type { AnswerOf } from '@under-chalk/core/contract/api';
import type { Assignment } from '@under-chalk/core/submission/assignment';
import type { Grant } from '@under-chalk/core/share-link/grant';
import type { PictureSize } from '@under-chalk/core/destination/size-name';
import { bytesAt, call, codeOf } from './client';

/** The name of each thing that is fetched, in the store of what has been. */
export const KEYS = {
  session: ['session'],
  lessons: ['lessons'],
  lesson: (id: string) => ['lesson', id],
  levels: (takeId: string) => ['levels', takeId],
  listeners: ['listeners'],
  loudness: (takeId: string) => ['loudness', takeId],
  notes: (lessonId: string, revision: number) => ['notes', lessonId, revision],
  covers: (lessonId: string, revision: number) => ['covers', lessonId, revision],
  pictures: (lessonId: string, revision: number) => ['pictures', lessonId, revision],
  films: (lessonId: string) => ['films', lessonId],
  madeSoFar: (lessonId: string, revision: number, size: string) => [
    'made-so-far',
    lessonId,
    revision,
    size,
  ],
  fitted: (filmId: string, mostBytes: number) => ['fitted', filmId, mostBytes],
  filmLoudness: (filmId: string) => ['film-loudness', filmId],
  shareLinks: (lessonId: string) => ['share-links', lessonId],
  destinations: ['destinations'],
  materials: (lessonId: string) => ['materials', lessonId],
  keptMaterials: ['kept-materials'],
  layouts: ['layouts'],
  savedStyles: ['savedStyles'],
  classMaterials: (className: string) => ['class-materials', className],
  materialWords: (materialId: string) => ['material-words', materialId],
  room: ['room'],
  storageUsed: ['storage-used'],
  bin: ['bin'],
  classes: ['classes'],
  class: (id: string) => ['class', id],
  classPage: (classId: string) => ['class-page', classId],
  studentPage: (studentId: string) => ['student-page', studentId],
  viewers: (shareLinkId: string) => ['views', shareLinkId],
  watched: (shareLinkId: string) => ['watched', shareLinkId],
  answers: (shareLinkId: string) => ['answers', shareLinkId],
  courseSites: ['course-sites'],
  unitOrder: (classId: string, unitId: string) => ['unit-order', classId, unitId],
  submissions: (shareLinkId: string) => ['submissions', shareLinkId],
  mails: (shareLinkId: string) => ['mail', shareLinkId],
  mail: ['mail'],
  testInbox: ['test-inbox'],
} as const;

const CHANGING_MS = 1_000;
/** While the server can't be reached. */
const AWAY_MS = 4_000;

/** How soon to ask again: at once while it changes, now and then while nobody answers; else not at all. */
export const askAgain = (changing: boolean, error: unknown): number | false =>
  changing ? CHANGING_MS : error && codeOf(error) === 'server-unreachable' ? AWAY_MS : false;

export const useSession = () =>
  useQuery({ queryKey: KEYS.session, queryFn: () => call('session') });

export const useLessons = () =>
  useQuery({ queryKey: KEYS.lessons, queryFn: () => call('lessons') });

/** A take that is being recorded or made ready changes by itself. */
const isChanging = (view: LessonView | undefined): boolean =>
  view?.lesson.takes.some((take) => ['recording', 'processing'].includes(take.state)) ?? false;

export const useLesson = (id: string) =>
  useQuery({
    queryKey: KEYS.lesson(id),
    queryFn: () => call('lesson', { params: { lessonId: id } }),
    refetchInterval: ({ state }) => askAgain(isChanging(state.data), state.error),
  });

/** Where films go, as the teacher has set it; what ships with the app until it has been fetched. */
export const useDestinations = () =>
  useQuery({
    queryKey: KEYS.destinations,
    queryFn: () => call('destinations'),
    placeholderData: { destinations: [...FIRST_DESTINATIONS], attentionUs: ATTENTION_US },
    staleTime: 60_000,
  });

/** Changes where films go. */
export const useSetDestinations = <T>(change: (value: T) => Promise<Destinations>) => {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: (places) => client.setQueryData(KEYS.destinations, places),
  });
};

export const useStorageUsed = () =>
  useQuery({ queryKey: KEYS.storageUsed, queryFn: () => call('storageUsed') });

/** Classes with how many are in them. */
export const useClasses = () =>
  useQuery({ queryKey: KEYS.classes, queryFn: () => call('classes') });

/** A class with who is in it. */
export const useClass = (classId: string | null) =>
  useQuery({
    queryKey: KEYS.class(classId ?? ''),
    queryFn: () => call('class', { params: { classId: classId! } }),
    enabled: classId !== null,
  });

export const useBin = () => useQuery({ queryKey: KEYS.bin, queryFn: () => call('bin') });

const isBeingRead = ({ state }: Material): boolean => state === 'reading';

/** What was brought into a lesson to be shown and written on. */
export const useMaterials = (lessonId: string) =>
  useQuery({
    queryKey: KEYS.materials(lessonId),
    queryFn: () => call('materials', { params: { lessonId } }),
    refetchInterval: ({ state }) => askAgain(state.data?.some(isBeingRead) ?? false, state.error),
  });

/** What can be brought in again, of all lessons. */
export const useKeptMaterials = (wanted: boolean) =>
  useQuery({
    queryKey: KEYS.keptMaterials,
    queryFn: () => call('keptMaterials'),
    enabled: wanted,
  });

/** What a class keeps for its next lessons; nothing for no class. */
export const useClassMaterials = (className: string) =>
  useQuery({
    queryKey: KEYS.classMaterials(className),
    queryFn: () => call('classMaterials', { params: { className } }),
    enabled: className !== '',
  });

/** What the pages of a material say. Asked again while it is still being found out. */
export const useMaterialWords = (materialId: string | null) =>
  useQuery({
    queryKey: KEYS.materialWords(materialId ?? ''),
    queryFn: () => call('materialWords', { params: { materialId: materialId! } }),
    enabled: materialId !== null,
    refetchInterval: ({ state }) => (state.data?.length === 0 ? AWAY_MS : false),
  });

const ROOM_MS = 15_000;

/** Room on the server's disk, looked at now and then. */
export const useFreeSpace = () =>
  useQuery({ queryKey: KEYS.room, queryFn: () => call('freeSpace'), refetchInterval: ROOM_MS });

/** Loudness of a take. Once it is ready it never changes. */
export const levelsQuery = (takeId: string) => ({
  queryKey: KEYS.levels(takeId),
  queryFn: () => bytesAt(pathTo('levels', { takeId })),
  staleTime: Number.POSITIVE_INFINITY,
});

export const loudnessQuery = (takeId: string) => ({
  queryKey: KEYS.loudness(takeId),
  queryFn: () => call('loudness', { params: { takeId } }),
  staleTime: Number.POSITIVE_INFINITY,
});

export const useLevels = (takeId: string, ready: boolean) =>
  useQuery({ ...levelsQuery(takeId), enabled: ready });

/** What a lesson's cover may show, as the lesson is now. */
export const useCoverChoices = (lessonId: string, revision: number, wanted = true) =>
  useQuery({
    queryKey: KEYS.covers(lessonId, revision),
    queryFn: () => call('coverChoices', { params: { lessonId } }),
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    // What was proposed a change before is shown meanwhile.
    placeholderData: keepPreviousData,
  });

/** Takes up a class as the server has it now. */
export const classCame = (client: QueryClient, view: ClassView): void => {
  client.setQueryData(KEYS.class(view.id), view);
  void client.invalidateQueries({ queryKey: KEYS.classes });
};

/** Makes a class, or changes its name and its units. */
export const useSetClass = () => {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, name, units, mail }: Class) =>
      call('setClass', { body: { id, name, units: [...units], ...(mail ? { mail } : {}) } }),
    onSuccess: (view) => {
      classCame(client, view);
      // Its lessons stay with it, under whatever name.
      void client.invalidateQueries({ queryKey: KEYS.lessons });
    },
  });
};

type UnitOrder = AnswerOf<'unitOrder'>;

/** The lessons of a unit, as their films stand on the class's pages. */
export const useUnitOrder = (classId: string, unitId: string) =>
  useQuery({
    queryKey: KEYS.unitOrder(classId, unitId),
    queryFn: () => call('unitOrder', { params: { classId, unitId } }),
    staleTime: 0,
  });

/** Puts them into an order: seen at once, and taken back where it isn't taken. */
export const useOrderUnit = (classId: string, unitId: string) => {
  const client = useQueryClient();
  const queryKey = KEYS.unitOrder(classId, unitId);
  return useMutation({
    mutationFn: (order: UnitOrder) =>
      call('orderUnit', {
        params: { classId, unitId },
        body: { lessons: order.map(({ lessonId }) => lessonId) },
      }),
    // One after the other, or an earlier one might come last.
    scope: { id: `order ${classId} ${unitId}` },
    onMutate: (order) => {
      const before = client.getQueryData<UnitOrder>(queryKey);
      client.setQueryData<UnitOrder>(queryKey, order);
      return { before };
    },
    onError: (_error, _order, context) => client.setQueryData(queryKey, context?.before),
    onSuccess: (view) => classCame(client, view),
  });
};

/** What is known of the pictures of a lesson's film, as the lesson is now. Asked again while they are being looked through. */
export const useLessonPictures = (lessonId: string, revision: number, wanted: boolean) =>
  useQuery({
    queryKey: KEYS.pictures(lessonId, revision),
    queryFn: () => call('lessonPictures', { params: { lessonId } }),
    enabled: wanted,
    refetchInterval: ({ state }) => (state.data?.isWhole === false ? AWAY_MS : false),
    placeholderData: keepPreviousData,
  });

const isInWork = (film: FilmRow): boolean => film.state === 'waiting' || film.state === 'making';

export const useFilms = (lessonId: string) =>
  useQuery({
    queryKey: KEYS.films(lessonId),
    queryFn: () => call('films', { params: { lessonId } }),
    refetchInterval: ({ state }) => askAgain(state.data?.some(isInWork) ?? false, state.error),
  });

/** While it is being found out, it is asked for this often, ms. */
const SIZE_MS = 2_000;

/** What a film of a lesson will take, by what is there of it already; null where that isn't known, `looking` while it is found out. */
export const useMadeSoFar = (lessonId: string, revision: number, size: PictureSize) => {
  const { data } = useQuery({
    // Not among the films: what is done with one doesn't wait for this to be fetched anew.
    queryKey: KEYS.madeSoFar(lessonId, revision, size),
    queryFn: () => call('madeSoFar', { params: { lessonId, size } }),
    refetchInterval: ({ state }) => (state.data?.looking ? SIZE_MS : false),
  });
  return {
    sofar: data?.made ? { ...data.made, size } : null,
    looking: data?.looking ?? false,
  };
};

export const useShareLinks = (lessonId: string) =>
  useQuery({
    queryKey: KEYS.shareLinks(lessonId),
    queryFn: () => call('shareLinks', { params: { lessonId } }),
    refetchInterval: ({ state }) =>
      askAgain(state.data?.some((shareLink) => isInWork(shareLink.film)) ?? false, state.error),
  });

/** Does something to a lesson's films or links, and has both lists fetched anew. */
const useFilmWork = <T, R>(lessonId: string, work: (value: T) => Promise<R>) => {
  const client = useQueryClient();
  return useMutation({
    mutationFn: work,
    onSettled: () =>
      Promise.all(
        [KEYS.films(lessonId), KEYS.shareLinks(lessonId), KEYS.lessons].map((queryKey) =>
          client.invalidateQueries({ queryKey }),
        ),
      ),
  });
};

export const useMakeFilm = (lessonId: string) =>
  useFilmWork(lessonId, (size: PictureSize) =>
    call('renderFilm', { params: { lessonId }, body: { size } }),
  );
export const useCancelFilm = (lessonId: string) =>
  useFilmWork(lessonId, (filmId: string) => call('cancelFilm', { params: { filmId } }));
export const useRetryFilm = (lessonId: string) =>
  useFilmWork(lessonId, (filmId: string) => call('retryFilm', { params: { filmId } }));
export const useCreateLink = (lessonId: string) =>
  useFilmWork(lessonId, (body: { size: PictureSize; grants: Grant[] }) =>
    call('createShareLink', { params: { lessonId }, body }),
  );
export const usePublishVersion = (lessonId: string) =>
  useFilmWork(lessonId, ({ shareLinkId, size }: { shareLinkId: string; size: PictureSize }) =>
    call('publishVersion', { params: { shareLinkId }, body: { size } }),
  );
export const useRestoreVersion = (lessonId: string) =>
  useFilmWork(lessonId, ({ shareLinkId, givenId }: { shareLinkId: string; givenId: string }) =>
    call('restoreVersion', { params: { shareLinkId }, body: { givenId } }),
  );
export const useEndEarlier = (lessonId: string) =>
  useFilmWork(lessonId, (shareLinkId: string) => call('endEarlier', { params: { shareLinkId } }));
export const useCreateOpenLink = (lessonId: string) =>
  useFilmWork(
    lessonId,
    ({ shareLinkId, ...body }: { shareLinkId: string; availableFrom: string | null; availableUntil: string | null }) =>
      call('createOpenShareLink', { params: { shareLinkId }, body }),
  );
export const useSetAudience = (lessonId: string) =>
  useFilmWork(lessonId, ({ shareLinkId, grants }: { shareLinkId: string; grants: Grant[] }) =>
    call('setAudience', { params: { shareLinkId }, body: { grants } }),
  );
/** Who has opened what is handed out. */
export const useViewers = (shareLinkId: string) =>
  useQuery({
    queryKey: KEYS.viewers(shareLinkId),
    queryFn: () => call('viewers', { params: { shareLinkId } }),
    staleTime: 0,
  });
export const useWatched = (shareLinkId: string) =>
  useQuery({
    queryKey: KEYS.watched(shareLinkId),
    queryFn: () => call('viewing', { params: { shareLinkId } }),
    staleTime: 0,
  });
export const useAnswered = (shareLinkId: string) =>
  useQuery({
    queryKey: KEYS.answers(shareLinkId),
    queryFn: () => call('answers', { params: { shareLinkId } }),
    staleTime: 0,
  });
/** What was handed in under a link. */
export const useSubmissions = (shareLinkId: string) =>
  useQuery({
    queryKey: KEYS.submissions(shareLinkId),
    queryFn: () => call('submissions', { params: { shareLinkId } }),
    staleTime: 0,
  });
export const useSetAssignment = (lessonId: string) =>
  useFilmWork(
    lessonId,
    ({ shareLinkId, assignment }: { shareLinkId: string; assignment: Assignment | null }) =>
      call('setAssignment', { params: { shareLinkId }, body: { assignment } }),
  );
/** For how long it is kept what is watched, of all links. */
export const useKeepWatched = () => {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (days: (typeof KEPT_DAYS)[number]) => call('setViewingRetention', { body: { days } }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['watched'] }),
  });
};
export const useAllowDownloads = (lessonId: string) =>
  useFilmWork(lessonId, ({ shareLinkId, downloads }: { shareLinkId: string; downloads: boolean }) =>
    call('setDownloads', { params: { shareLinkId }, body: { downloads } }),
  );
export const useSetAttachments = (lessonId: string) =>
  useFilmWork(
    lessonId,
    ({ shareLinkId, materials }: { shareLinkId: string; materials: readonly string[] }) =>
      call('setAttachments', { params: { shareLinkId }, body: { materials: [...materials] } }),
  );
export const useRevokeLink = (lessonId: string) =>
  useFilmWork(lessonId, (shareLinkId: string) => call('revokeShareLink', { params: { shareLinkId } }));
export const useRestoreLink = (lessonId: string) =>
  useFilmWork(lessonId, (shareLinkId: string) => call('restoreShareLink', { params: { shareLinkId } }));
