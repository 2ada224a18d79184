import type { Edit } from '@under-chalk/core/edit/edit';
import { DEFAULT_LAYOUT } from '@under-chalk/core/lesson/layout';
import type { Plan } from '@under-chalk/core/lesson/plan';
import type { Assignment } from '@under-chalk/core/submission/assignment';
import { chartSvg, plotPng, slidesPdf } from './materials';

/** One sentence of a demo lesson and the silence after it, seconds. */
export interface Said {
  readonly words: string;
  readonly pause: number;
}

/** The class of the demo: its weeks, and who is in it. */
export const DEMO_CLASS = {
  id: 'class-coastal-navigation',
  units: ['Week 1', 'Week 2', 'Week 3', 'Week 4', 'Week 5'],
  students: [
    ...['Bram Okafor', 'Sunniva Petel', 'Ines Carrow', 'Tomas Wray', 'Idris Falk'],
    ...['Noor Halden', 'Pia Sorrell', 'Wen Castellan'],
  ].map((name) => ({
    name,
    address: `${name.split(' ')[0]!.toLowerCase()}@lantern-quay.example`,
  })),
};

export interface DemoLesson {
  readonly id: string;
  readonly plan: Omit<Plan, 'destinationId'> & { readonly destinationId: string };
  /** Its outline; what a point shows and says may be left empty. */
  readonly points: readonly { text: string; show?: string; words?: string }[];
  /** What is brought in for it to show. */
  readonly materials: readonly { readonly name: string; readonly bytes: () => Promise<Buffer> }[];
  readonly takeId: string | null;
  /** Name of its footage in `demo/media`. */
  readonly footage: string | null;
  readonly surface: 'tide-table' | 'slides' | 'board';
  readonly said: readonly Said[];
  /** What was done to it; made from the interactions at which its sentences begin, in µs. */
  readonly tidied: (startsUs: readonly number[], endUs: number) => readonly Edit[];
  readonly handedOut: boolean;
  /** Its captions: as what is said, typed or pasted and put in time; and the same in another language. */
  readonly captions: {
    readonly how: 'typed' | 'pasted';
    readonly german?: readonly string[];
  } | null;
}

/** What is to be done after the welcome to week four: the course's assignment. */
export const ACTIVITY: Assignment = {
  text: 'Plot a course to steer across the estuary. Write down the course, and show your plot.',
  next: 'Bring your plotter and a soft pencil on Thursday.',
  dueAt: null,
  by: ['words', 'file', 'voice'],
};

/** What was handed in of it. */
export const HANDED_IN = [
  {
    student: 'Bram Okafor',
    text: 'I steer 087 degrees, with the stream of the fourth hour.',
    files: [{ name: 'Plot by Bram Okafor.png', bytes: plotPng }],
  },
  {
    student: 'Sunniva Petel',
    text: 'Between 085 and 090. Which hour of the stream do I take at half past three?',
    files: [],
  },
] as const;

export const CLASS = 'Coastal navigation for beginners';

const TABLE_TAKE = 'take-tide-table';
const WELCOME_TAKE = 'take-welcome-four';
const TWELFTHS_TAKE = 'take-twelfths';

/** Lantern Quay Evening Classes, where everything in the demo happens. All of it is made up. */
export const WORLD: readonly DemoLesson[] = [
  {
    id: 'lesson-reading-a-tide-table',
    plan: {
      title: 'Reading a tide table',
      description: 'Which columns matter tonight, and how to find the height at high water.',
      className: CLASS,
      unit: 'Week 4',
      destinationId: 'three-minute-note',
    },
    points: [],
    materials: [],
    takeId: TABLE_TAKE,
    footage: 'tide-table',
    surface: 'tide-table',
    said: [
      { words: 'Good evening. This is the tide table for Lantern Quay.', pause: 0.7 },
      { words: 'Every line is one day. The first column is the day itself.', pause: 0.6 },
      {
        words: 'Then come the times of high water, and beside each time its height in metres.',
        pause: 0.8,
      },
      {
        words: 'So on Tuesday high water is at nine. No, sorry, that is the wrong line.',
        pause: 1.1,
      },
      {
        words: 'On Tuesday high water is a little before four, at five and a half metres.',
        pause: 0.7,
      },
      {
        words: 'The low water comes about six hours later. Here it is, in the middle.',
        pause: 2.6,
      },
      {
        words: 'Try it with Friday, and write down both high waters before our class.',
        pause: 0.6,
      },
      { words: 'I will see you on the quay.', pause: 2.2 },
    ],
    tidied: () => [],
    handedOut: false,
    captions: null,
  },
  {
    id: 'lesson-week-four-welcome',
    plan: {
      title: 'Week four: welcome',
      description: 'What is new this week, what is hard, and when I am away.',
      className: CLASS,
      unit: 'Week 4',
      destinationId: 'three-minute-note',
    },
    points: [
      { text: 'Hello', show: 'Week four, page 1' },
      { text: 'This week’s three pages', show: 'Week four, page 2' },
      { text: 'What is hard, what is easy', show: 'Week four, page 3' },
      { text: 'When I am away', show: 'Week four, page 4' },
    ],
    materials: [{ name: 'Week four.pdf', bytes: slidesPdf }],
    takeId: WELCOME_TAKE,
    footage: 'welcome',
    surface: 'slides',
    said: [
      { words: 'Is it on? I think it is on.', pause: 1.4 },
      { words: 'Hello everyone, and welcome to week four.', pause: 0.7 },
      { words: 'This week we plot our first course to steer across the estuary.', pause: 0.7 },
      {
        words:
          'There are three pages to go through, in this order: the tide table, the stream, and then the chart.',
        pause: 0.8,
      },
      {
        words:
          'The hard part is the stream. It pushes you sideways, and you have to aim off for it.',
        pause: 0.8,
      },
      { words: 'The easy part is the drawing. A pencil and a ruler will do.', pause: 0.7 },
      {
        words: 'I am away on Thursday, so please send your questions by Wednesday evening.',
        pause: 0.7,
      },
      { words: 'See you soon, and keep your pencils sharp.', pause: 2.0 },
    ],
    tidied: (starts, endUs) => [
      ...[
        [
          'pages',
          starts[3]!,
          'A slide: three pages, numbered. The tide table, the stream, the chart.',
        ],
        [
          'hard',
          starts[5]! - 300_000,
          'On the slide, “aiming off for the stream” is underlined by hand.',
        ],
      ].map(([name, atUs, text]): Edit => {
        const id = `lesson-week-four-welcome-seen-${name}`;
        return {
          ...{ do: 'set-audio-description', id },
          description: { id, takeId: WELCOME_TAKE, atUs: Number(atUs), text: String(text) },
        };
      }),
      {
        ...{ do: 'set-interaction', id: 'lesson-week-four-welcome-note' },
        interaction: {
          ...{ id: 'lesson-week-four-welcome-note', takeId: WELCOME_TAKE },
          atUs: starts[6]! + 1_000_000,
          text: 'Questions by Wednesday evening: by mail, or on paper at the quay.',
          does: { is: 'note' },
        },
      },
      ...[2, 4, 6, 7].map((sentence, index): Edit => ({
        do: 'mark-topic-done',
        topicId: `lesson-week-four-welcome-point-${index + 1}`,
        takeId: WELCOME_TAKE,
        atUs: starts[sentence]! - 350_000,
      })),
      {
        do: 'trim',
        placementId: WELCOME_TAKE,
        startUs: starts[1]! - 300_000,
        endUs: endUs - 1_400_000,
      },
      {
        do: 'set-layout',
        takeId: WELCOME_TAKE,
        startUs: 0,
        endUs: starts[2]! - 350_000,
        layout: { ...DEFAULT_LAYOUT, kind: 'camera' },
      },
      {
        do: 'set-layout',
        takeId: WELCOME_TAKE,
        startUs: starts[7]! - 350_000,
        endUs,
        layout: { ...DEFAULT_LAYOUT, kind: 'camera' },
      },
    ],
    handedOut: true,
    captions: {
      how: 'typed',
      german: [
        'Läuft es? Ich glaube, es läuft.',
        'Hallo zusammen, und willkommen zur vierten Woche.',
        'Diese Woche zeichnen wir unseren ersten Kurs über die Flussmündung.',
        'Drei Seiten gehen wir durch, in dieser Reihenfolge: die Gezeitentafel, den Strom und dann die Karte.',
        'Schwer ist der Strom. Er versetzt euch zur Seite, und ihr müsst vorhalten.',
        'Leicht ist das Zeichnen. Bleistift und Lineal genügen.',
        'Am Donnerstag bin ich nicht da, schickt mir eure Fragen also bis Mittwochabend.',
        'Bis bald, und haltet eure Bleistifte spitz.',
      ],
    },
  },
  {
    id: 'lesson-rule-of-twelfths',
    plan: {
      title: 'Tide heights by the rule of twelfths',
      description: 'One, two, three, three, two, one: how the water rises hour by hour.',
      className: CLASS,
      unit: 'Week 5',
      destinationId: 'course-film',
    },
    points: [
      {
        text: 'Why the water does not rise evenly',
        words:
          'Tonight we ask a simple question. The tide takes six hours to come in. So after three hours, is it half way up?\nYes, it is. But after one hour it is not a sixth of the way up, and that is what catches people out.',
      },
      {
        text: 'One, two, three, three, two, one',
        show: 'the twelfths, written on a page',
        words:
          'In the first hour the water rises one twelfth. In the second, two. In the third, three, and in the fourth, three again. Then two, and then one.',
      },
      {
        text: 'Friday at the quay, worked out',
        show: 'the tide table for Lantern Quay',
        words:
          'Take Friday. Low water is at one point two metres and high water at five point two. The range is four metres, and a twelfth of four metres is a third of a metre.',
      },
      { text: 'What to hand in' },
    ],
    materials: [],
    takeId: TWELFTHS_TAKE,
    footage: 'twelfths',
    surface: 'board',
    // What is written to each of these sentences stands in core, `ink/script/twelfths`.
    said: [
      { words: 'Good evening. Tonight: how high is the water, hour by hour?', pause: 1.4 },
      { words: 'The tide takes about six hours to come in.', pause: 2.4 },
      { words: 'We cut the whole rise into twelve equal parts.', pause: 2.2 },
      { words: 'In the first hour the water rises one part. In the second hour, two.', pause: 1.4 },
      { words: 'In the third hour, three. And in the fourth, three again.', pause: 1.4 },
      { words: 'Then two, and then one, and it is high water.', pause: 2.2 },
      { words: 'So it is quick in the middle, and slow at both ends.', pause: 2.6 },
      { words: 'Now take Friday, at the quay.', pause: 2 },
      {
        words: 'Low water is one point two metres, and high water is five point two.',
        pause: 2.6,
      },
      {
        words: 'The range is four metres, and a twelfth of that is a third of a metre.',
        pause: 2.8,
      },
      { words: 'After two hours, three parts have come in. That is one metre.', pause: 2.8 },
      {
        words: 'Back to the first page for an interaction. Where on the curve are we?',
        pause: 2.8,
      },
      { words: 'There. Now try it with your own Friday, and bring it to class.', pause: 2 },
    ],
    tidied: (starts, endUs) => [
      ...[0, 2, 7, 12].map((sentence, index): Edit => ({
        do: 'mark-topic-done',
        topicId: `lesson-rule-of-twelfths-point-${index + 1}`,
        takeId: TWELFTHS_TAKE,
        atUs: Math.max(0, starts[sentence]! - 350_000),
      })),
      { do: 'trim', placementId: TWELFTHS_TAKE, startUs: 0, endUs: endUs - 1_200_000 },
    ],
    handedOut: false,
    captions: { how: 'pasted' },
  },
  {
    id: 'lesson-plotting-a-course',
    plan: {
      title: 'Plotting a course',
      description: 'From the quay to the outer buoy, with the stream on the beam.',
      className: CLASS,
      unit: 'Week 5',
      destinationId: 'course-film',
    },
    points: [
      { text: 'Where from, where to', show: 'Chart of the estuary' },
      { text: 'What the stream does in an hour', show: 'Chart of the estuary' },
      { text: 'How Bram did it', show: 'Plot by Bram Okafor' },
    ],
    materials: [
      { name: 'Chart of the estuary.svg', bytes: async () => Buffer.from(chartSvg()) },
      { name: 'Plot by Bram Okafor.png', bytes: plotPng },
    ],
    takeId: null,
    footage: null,
    surface: 'slides',
    said: [],
    tidied: () => [],
    handedOut: false,
    captions: null,
  },
];

/** What the practice voice says, again and again. */
export const PRACTICE_SAID: readonly Said[] = [
  {
    words: 'This is the practice voice. You can try everything with it, and nobody will hear it.',
    pause: 0.8,
  },
  {
    words: 'Here is a tide table. High water comes twice a day, a little later each time.',
    pause: 0.7,
  },
  { words: 'Watch the pointer. It clicks on Tuesday, and now on Thursday.', pause: 0.9 },
  {
    words: 'When you have heard enough, press stop, and then tidy what you have recorded.',
    pause: 1.2,
  },
  {
    words:
      'You can cut a phrase, move my picture to another corner, or make it large for the goodbye.',
    pause: 1.6,
  },
];
