/**
 * Faults that the tests must find: one-line mistakes.
 *
 * @typedef {object} Fault
 * @property {string} name
 * @property {string} file
 * @property {string} from text that occurs once in the file
 * @property {string} to
 * @property {readonly string[]} [suites] Jest suites; at least one must fail
 * @property {readonly [string, string]} [spec] browser spec and part of a test title; the test must fail
 */

/** @type {readonly Fault[]} */
export const FAULTS = [
  {
    name: 'a grant to one student lets anybody with the link watch',
    file: 'core/src/share-link/may-watch.ts',
    from: "if (asking.is === 'link') return false;",
    to: "if (asking.is === 'link') return true;",
    suites: ['core/src/share-link/may-watch.test.ts'],
  },
  {
    name: 'a frame shows what belongs to the one before',
    file: 'core/src/time/frames.ts',
    from: 'Math.floor(((us + 0.5) * FILM_FPS) / US_PER_SECOND)',
    to: 'Math.floor(((us - 0.5) * FILM_FPS) / US_PER_SECOND)',
    suites: ['core/src/time/time.test.ts', 'core/src/scene/scene.test.ts'],
  },
  {
    name: 'samples of a fragment are moved by one',
    file: 'core/src/mp4/fragments.ts',
    from: 'const nextAt = samples[index + 1]?.at ?? endAt;',
    to: 'const nextAt = samples[index]?.at ?? endAt;',
    suites: [
      'app/workers/recorder/track-file.test.ts',
      'server/src/jobs/ingest/early-copy.test.ts',
    ],
  },
  {
    name: 'a voice clicks where a part of it is silenced',
    file: 'core/src/sound/heard.ts',
    from: 'fadeInUs: from === filmFrame ? fadeInUs : FADE_US,',
    to: 'fadeInUs: from === filmFrame ? fadeInUs : 0,',
    suites: ['core/src/sound/heard.test.ts'],
  },
  {
    name: 'computer sound gets louder under speech',
    file: 'core/src/sound/ducking.ts',
    from: 'const gain = fromDbfs(-db);',
    to: 'const gain = fromDbfs(db);',
    suites: ['core/src/sound/ducking.test.ts'],
  },
  {
    name: 'minutes of a caption file run past sixty',
    file: 'core/src/words/files/web-vtt.ts',
    from: 'two(Math.floor(whole / 60) % 60)',
    to: 'two(Math.floor(whole / 60))',
    suites: ['core/src/words/files/files.test.ts'],
  },
  {
    name: 'marks in a caption are not escaped',
    file: 'core/src/words/files/web-vtt.ts',
    from: ".replaceAll('<', '&lt;')",
    to: '',
    suites: ['core/src/words/files/files.test.ts'],
  },
  {
    name: 'two tabs overwrite one another silently',
    file: 'core/src/edit/conflict.ts',
    from: 'JSON.stringify(a.value) !== JSON.stringify(b.value);',
    to: 'JSON.stringify(a.value) === JSON.stringify(b.value);',
    suites: ['core/src/edit/edit.test.ts', 'core/src/edit/commute.test.ts'],
  },
  {
    name: 'what was wiped from the board is still seen',
    file: 'core/src/ink/ink-track.ts',
    from: 'if (!isWiped) wiped.push({ fromUs: record.at, toUs: Infinity });',
    to: 'if (isWiped) wiped.push({ fromUs: record.at, toUs: Infinity });',
    suites: ['core/src/ink/ink-track.test.ts'],
  },
  {
    name: 'the halo around the pointer covers nothing',
    file: 'paint/src/layers/pointer.ts',
    from: 'const HALO = 0.42;',
    to: 'const HALO = 0;',
    suites: ['paint/src/layers/pointer.test.ts'],
  },
  {
    name: 'the last pieces of a film are made first',
    file: 'render/src/film/piece-order.ts',
    from: 'a.frame - b.frame || order',
    to: 'b.frame - a.frame || order',
    suites: ['render/src/film/piece-order.test.ts'],
  },
  {
    name: 'a piece has the same name whatever its footage is',
    file: 'render/src/plan/chunks.ts',
    from: '    media,\n',
    to: '',
    suites: ['render/src/plan/plan-film.test.ts', 'render/src/plan/chunks.test.ts'],
  },
  {
    name: 'a film joins its sound without what was encoded before it',
    file: 'render/src/plan/sound.ts',
    from: 'export const PRE_ROLL = 12;',
    to: 'export const PRE_ROLL = 0;',
    suites: ['render/src/film/render-sound.test.ts'],
  },
  {
    name: 'the server answers for bytes that are not on its disk',
    file: 'server/src/store/track-bytes.ts',
    from: 'failed ??= error;',
    to: '',
    suites: ['server/src/routes/uploads.test.ts'],
  },
  {
    name: 'a ticket for pieces of a film never ends',
    file: 'server/src/http/tickets.ts',
    from: 'if (Number.parseInt(until, 36) < now)',
    to: 'if (Number.parseInt(until, 36) < 0)',
    suites: ['server/src/http/tickets.test.ts'],
  },
  {
    name: 'a PIN can be guessed as fast as one likes',
    file: 'server/src/http/guesses.ts',
    from: 'const FREE = 5;',
    to: 'const FREE = 5_000;',
    suites: ['server/src/http/guesses.test.ts'],
  },
  {
    name: 'a piece counts as stored before it is',
    file: 'app/workers/recorder/piece-line.ts',
    from: 'piece.stored = true;\n      } catch (error) {',
    to: '} catch (error) {\n        piece.stored = true;',
    suites: ['app/workers/recorder/piece-line.test.ts'],
  },
  {
    name: 'a batch of edits leaves the last press behind',
    file: 'app/data/edit-line.ts',
    from: 'return batch.slice(0, MOST_ENTRIES);',
    to: 'return batch.slice(0, Math.max(1, batch.length - 1));',
    suites: ['app/data/edit-line.test.ts'],
  },
  {
    name: 'arrow keys choose and leave the focus where it was',
    file: 'app/ui/choices.tsx',
    from: 'focusOn(parts.current.get(next.value) ?? null);',
    to: '',
    suites: ['app/ui/choices.test.tsx'],
  },
  {
    name: 'the heading of a screen does not take the focus',
    file: 'app/ui/focus.ts',
    from: 'heading.focus({ preventScroll: true });',
    to: '',
    spec: ['touches', 'by keys alone'],
  },
];
