import * as z from 'zod';

/** What a person is told when something did not work: what happened, and what to do next. */
interface ErrorText {
  readonly message: string;
  readonly hint: string;
  /** Answer of the API (RFC 9110). Absent where it only ever comes up in the browser. */
  readonly status?: number;
}

const told = <T extends Record<string, ErrorText>>(table: T): T => table;

/** Every error a person can meet. Codes are stable; sentences may be bettered. */
// Marked as pure, so that bundlers can leave it out of students' pages, which have a catalogue.
export const ERRORS = /* @__PURE__ */ told({
  'not-found': {
    status: 404,
    message: 'There is nothing here.',
    hint: 'Check the address, or go back to your lessons.',
  },
  'not-open-yet': {
    status: 403,
    message: 'This film isn’t available yet.',
    hint: 'Come back when it opens.',
  },
  'mail-not-taken': {
    status: 502,
    message: 'The mail server did not take it.',
    hint: 'Check its name, port, user and password.',
  },
  'not-for-you': {
    status: 403,
    message: 'This film is for certain students.',
    hint: 'Open it from your own page. Your teacher can give you the link.',
  },
  'site-unknown': {
    status: 403,
    message: 'This course site isn’t connected to Under Chalk.',
    hint: 'Tell your teacher. It is connected under Classes, Course sites.',
  },
  'site-unreachable': {
    status: 502,
    message: 'The course site doesn’t answer.',
    hint: 'Go back to your course and try again in a few minutes.',
  },
  'site-unfit': {
    status: 400,
    message: 'The course site can’t be joined like this.',
    hint: 'It leaves something out, or doesn’t take Under Chalk in. Join it by hand, under Classes, Course sites.',
  },
  'launch-forged': {
    status: 403,
    message: 'The sign-in from the course site could not be verified.',
    hint: 'Go back to your course and open it again from there.',
  },
  'launch-over': {
    status: 410,
    message: 'This sign-in has expired.',
    hint: 'Go back to your course and open it again from there.',
  },
  'launch-again': {
    status: 409,
    message: 'This sign-in has already been used.',
    hint: 'Go back to your course and open it again from there.',
  },
  'launch-unbound': {
    status: 403,
    message: 'This sign-in didn’t begin in this browser, or the browser blocks cookies here.',
    hint: 'Open the film again from your course. If that doesn’t help, allow cookies for it or use another browser.',
  },
  'launch-elsewhere': {
    status: 403,
    message: 'The sign-in from the course site was meant for another service.',
    hint: 'Tell your teacher. The site’s settings for Under Chalk may be wrong.',
  },
  'launch-unfit': {
    status: 400,
    message: 'The course site left out something that is needed.',
    hint: 'Tell your teacher which link you opened.',
  },
  'course-without-class': {
    status: 409,
    message: 'This course has no class in Under Chalk yet.',
    hint: 'Tell your teacher. The class is chosen under Classes, Course sites.',
  },
  'name-not-told': {
    status: 409,
    message: 'The course site doesn’t say who you are.',
    hint: 'Tell your teacher. The site must share names with Under Chalk.',
  },
  'too-many-courses': {
    message: 'This course site has more courses than Under Chalk keeps.',
    hint: 'Ask your teacher to remove the site and join it again: courses that are still used come back when they are opened.',
    status: 409,
  },
  'too-many-sites': {
    status: 409,
    message: 'There are fifty course sites already.',
    hint: 'Take one away that isn’t used any more.',
  },
  'pin-needed': {
    status: 403,
    message: 'This page needs a PIN.',
    hint: 'Open your own page and enter the six digits that your teacher gave you.',
  },
  'wrong-pin': {
    status: 403,
    message: 'That PIN is wrong.',
    hint: 'Try again, or ask your teacher for it.',
  },
  'no-page': {
    status: 404,
    message: 'This page no longer exists.',
    hint: 'Ask your teacher for the new link.',
  },
  'ticket-over': {
    status: 410,
    message: 'This address was valid for a few minutes only.',
    hint: 'Go back to the film’s page and reload it.',
  },
  'no-longer-open': {
    status: 410,
    message: 'This film is no longer available.',
    hint: 'Ask your teacher whether it will open again.',
  },
  'bad-request': {
    status: 400,
    message: 'This could not be understood.',
    hint: 'Reload the page and try again.',
  },
  'signed-out': {
    status: 401,
    message: 'You are not signed in.',
    hint: 'Sign in with your passphrase.',
  },
  'wrong-passphrase': {
    status: 403,
    message: 'That is not the passphrase.',
    hint: 'Try again; capital letters count.',
  },
  'too-many-tries': {
    status: 429,
    message: 'Others of yours are still being checked.',
    hint: 'Wait half a minute, then try again.',
  },
  'too-busy': {
    status: 429,
    message: 'Too much is being sent from your network at once. Nothing was changed.',
    hint: 'Wait a few seconds, then try again.',
  },
  'already-set-up': {
    status: 409,
    message: 'This Under Chalk has its teacher already.',
    hint: 'Sign in with the passphrase.',
  },
  'wrong-code': {
    status: 403,
    message: 'The set-up code is not right.',
    hint: 'Use the address printed where the app was started.',
  },
  'foreign-origin': {
    status: 403,
    message: 'This came from another site.',
    hint: 'Open Under Chalk itself and try again.',
  },
  'changed-elsewhere': {
    status: 409,
    message: 'The same thing was changed in another tab.',
    hint: 'Choose which of the two to keep.',
  },
  'exists-already': {
    status: 409,
    message: 'This exists already.',
    hint: 'Reload the page.',
  },
  'not-ready': {
    status: 409,
    message: 'This is not ready yet.',
    hint: 'Wait a moment and try again.',
  },
  /** 503, because players retry it, and no 4xx. */
  'being-made': {
    status: 503,
    message: 'This part of the film is still being made.',
    hint: 'Wait a moment and try again.',
  },
  'nothing-in-film': {
    status: 409,
    message: 'There is nothing in the film yet.',
    hint: 'Record something, or bring back what was cut.',
  },
  'too-large': {
    status: 413,
    message: 'The file is too large.',
    hint: 'Bring in a shorter film, or one of a smaller size.',
  },
  'disk-full': {
    status: 507,
    message: 'The disk of the server is full.',
    hint: 'Make room there and try again; nothing that was recorded is lost.',
  },
  'file-empty': {
    message: 'The file is empty.',
    hint: 'Choose another file; if it came from a phone, wait until it has been copied whole.',
    status: 422,
  },
  'file-not-film': {
    message: 'This file is not a film that can be opened here.',
    hint: 'Choose an MP4, MOV or WebM file.',
    status: 422,
  },
  'film-unreadable': {
    message: 'The film is damaged and nothing in it can be played.',
    hint: 'Copy it anew from where it came from, or choose another.',
    status: 422,
  },
  'picture-unreadable': {
    message: 'Its picture is damaged and can’t be played.',
    hint: 'The rest of it is here. Nothing has been thrown away: it can be made ready anew.',
    status: 422,
  },
  'sound-unreadable': {
    message: 'Its sound is damaged and can’t be played.',
    hint: 'The rest of it is here. Nothing has been thrown away: it can be made ready anew.',
    status: 422,
  },
  'file-not-ink': {
    message: 'This file holds no ink that can be read.',
    hint: 'Save it as InkML in the program that it was written with, and choose it again.',
    status: 415,
  },
  'file-not-material': {
    message: 'This is no kind of file that can be shown here.',
    hint: 'Choose a PDF, a picture, a saved page of the web, or a text; anything else, save as a PDF first.',
    status: 422,
  },
  'file-not-taken': {
    message: 'This kind of file can’t be submitted.',
    hint: 'Choose a picture, PDF, document, text, sound or film.',
    status: 422,
  },
  'too-many-files': {
    status: 409,
    message: 'That’s too many files.',
    hint: 'Remove some first.',
  },
  'too-many-answers': {
    status: 409,
    message: 'This question takes no more answers from people without a name.',
    hint: 'Ask your teacher for your own link.',
  },
  'too-many-submissions': {
    status: 409,
    message: 'This link takes no more submissions.',
    hint: 'Ask your teacher for another link.',
  },
  'material-locked': {
    message: 'This file can only be opened with a password.',
    hint: 'Save it without one, and bring that in.',
    status: 422,
  },
  'material-unreadable': {
    message: 'This file is damaged, and none of its pages can be shown.',
    hint: 'Copy it anew from where it came from, or save it as a PDF again.',
    status: 422,
  },
  'material-too-long': {
    message: 'This file has more than 1,000 pages.',
    hint: 'Save the pages that you will show as a file of their own.',
    status: 422,
  },
  'material-too-heavy': {
    message: 'There is more in this file than can be shown.',
    hint: 'Save it with smaller pictures or fewer drawings, or bring in only the pages you need.',
    status: 422,
  },
  'office-missing': {
    status: 422,
    message: 'This server can’t open files of office programs.',
    hint: 'Save it as a PDF and bring that in; or have LibreOffice installed where Under Chalk runs.',
  },
  'too-many-materials': {
    status: 409,
    message: 'This lesson has a hundred materials already.',
    hint: 'Take some out of its list first.',
  },
  'archive-unreadable': {
    status: 422,
    message: 'This is not the archive of a lesson, or it is damaged.',
    hint: 'Save it once more with “Save all of it”, in the list of lessons that it comes from, and bring that in.',
  },
  'archive-newer': {
    status: 422,
    message: 'This archive was made by a later version of Under Chalk.',
    hint: 'Bring this one up to date first.',
  },
  'archive-lacking': {
    status: 422,
    message: 'A part of the lesson is missing in this archive, or has been changed.',
    hint: 'Save it once more where it comes from, and bring that in as it is.',
  },
  'archive-swollen': {
    status: 422,
    message: 'Unpacked, this archive would be many times as large as it is.',
    hint: 'The archive of a lesson isn’t: bring in one that was saved with “Save all of it”.',
  },
  'words-too-large': {
    status: 413,
    message: 'There are more words in this file than any lesson has.',
    hint: 'Choose the file with the words of this lesson alone.',
  },
  'words-unreadable': {
    status: 422,
    message: 'No words can be read in this file.',
    hint: 'Choose a WebVTT, SRT or TTML file, or a plain text.',
  },
  'words-empty': {
    status: 422,
    message: 'There are no words in this file.',
    hint: 'Choose another, or paste the text.',
  },
  'nothing-to-time': {
    status: 409,
    message: 'There are no captions in the film in this language.',
    hint: 'Paste or type the words first.',
  },
  'language-not-heard': {
    status: 422,
    message: 'This language can’t be put in time with a voice here.',
    hint: 'Set the times by hand, or bring in a file that has them.',
  },
  'listener-failed': {
    status: 502,
    message: 'What should have listened did not, or did not say what it heard.',
    hint: 'Try again; if it stays, look at the listener that this server was given (UNDER_CHALK_LISTENER).',
  },
  'listener-missing': {
    status: 422,
    message: 'Nothing on this server can listen to a voice.',
    hint: 'Have pocketsphinx and pocketsphinx-en-us installed where Under Chalk runs.',
  },
  'too-many-saved-styles': {
    message: 'Twelve styles are kept already.',
    hint: 'Let one of them go, and keep this one then.',
    status: 409,
  },
  'too-many-layouts': {
    message: 'Three layouts are kept already.',
    hint: 'Let one of them go, and keep this one then.',
    status: 409,
  },
  'ink-unreadable': {
    message: 'What was written can’t be read.',
    hint: 'The rest of the take is there. What came in is kept; try again.',
    status: 422,
  },
  'take-unreadable': {
    message: 'This take could not be made ready.',
    hint: 'What was recorded is kept. Try again; if it stays, look into the log where the app was started.',
    status: 422,
  },
  'footage-too-slow': {
    message: 'Making this ready took longer than it may.',
    hint: 'Try again when the computer has less to do, or bring in a simpler film.',
    status: 422,
  },
  'take-too-long': {
    message: 'This film is longer than a day.',
    hint: 'Bring in a part of it.',
    status: 422,
  },
  'called-off': {
    message: 'You stopped this from being made ready.',
    hint: 'It can be made ready again at any time.',
    status: 409,
  },
  'lesson-unreadable': {
    message: 'This lesson can’t be read by this version.',
    hint: 'Nothing of it is lost. Start the newest Under Chalk, or look into the log where the app was started.',
    status: 500,
  },
  'take-empty': {
    message: 'Nothing had been recorded yet when this take ended.',
    hint: 'Record it again; the rest of the lesson is as it was.',
    status: 422,
  },
  'export-failed': {
    message: 'The film could not be made.',
    hint: 'Try again; what had been finished is kept.',
    status: 500,
  },
  'film-handed-out': {
    status: 409,
    message: 'Students can watch this film at a link.',
    hint: 'Take the link away first; then the film can go.',
  },
  'cannot-fit': {
    status: 409,
    message: 'It is too long to be readable in so few megabytes.',
    hint: 'Make it shorter, or hand it out by its link.',
  },
  'no-film-to-keep': {
    status: 409,
    message: 'No film of this lesson is finished.',
    hint: 'Hand it out or make a file first; then that can be kept alone.',
  },
  'class-name-taken': {
    status: 409,
    message: 'There is a class of that name already.',
    hint: 'Give it another name; its year or evening tells them apart.',
  },
  'too-many-classes': {
    status: 409,
    message: 'You have two hundred classes already.',
    hint: 'Take away those that are over.',
  },
  'too-many-students': {
    status: 409,
    message: 'A class can have a thousand students.',
    hint: 'Divide them among several classes.',
  },
  'both-submitted': {
    status: 409,
    message: 'Both have submitted work for the same link.',
    hint: 'Keep them apart: choose “Different people”.',
  },
  'no-roster': {
    message: 'No classes could be found in that file.',
    hint: 'Give a list as CSV, or an archive (ZIP) as OneRoster 1.2 has it.',
  },
  'storage-in-use': {
    status: 409,
    message: 'A film is being made just now, and needs what is held.',
    hint: 'Wait until it is done, then try again.',
  },
  'take-elsewhere': {
    status: 409,
    message: 'Another lesson shows this take too.',
    hint: 'Leave it out of this lesson instead; it stays where it is needed.',
  },
  'footage-missing': {
    message: 'Footage of this lesson is missing from the disk.',
    hint: 'Put the media folder back as it was, then try again.',
    status: 500,
  },
  'folder-in-use': {
    message: 'Another Under Chalk is using this data folder.',
    hint: 'Close that one, or choose another folder with UNDER_CHALK_HOME=… npm start.',
  },
  'folder-older': {
    message:
      'This data folder was made by a version before the first release. Nothing in it was changed.',
    hint: 'Start the version that made it, export each lesson that you want to keep, then start this version with a new folder (UNDER_CHALK_HOME=… npm start) and import them.',
  },
  'folder-newer': {
    message: 'This data folder was made by a newer version. Nothing in it was changed.',
    hint: 'Start the newer version, or choose another folder with UNDER_CHALK_HOME=… npm start.',
  },
  'links-key-damaged': {
    message: 'The key of the links is damaged. Nothing was changed.',
    hint: 'Restore the file “links.key” in the data folder from a backup. If there is none, move it away and start again: links still open, but their addresses can’t be shown again, and the password of your mail server has to be given again.',
  },
  'port-in-use': {
    message: 'The port is in use.',
    hint: 'Close what uses it, or choose another with PORT=4751 npm start.',
  },
  'folder-unwritable': {
    message: 'The data folder can’t be written to.',
    hint: 'Check who owns it and whether its disk can be written to, or choose another with UNDER_CHALK_HOME=… npm start.',
  },
  unexpected: {
    status: 500,
    message: 'Under Chalk met something it did not expect and has written it down.',
    hint: 'Try again; if it stays, look into the log where the app was started.',
  },
  'server-unreachable': {
    message: 'Under Chalk can’t be reached.',
    hint: 'What was recorded waits here and is sent as soon as the connection is back.',
  },
  'microphone-refused': {
    message: 'The browser does not let Under Chalk hear the microphone.',
    hint: 'Press the sign beside the address, allow the microphone, then press “Try again”.',
  },
  'camera-refused': {
    message: 'The browser does not let Under Chalk see the camera.',
    hint: 'Press the sign beside the address, allow the camera, then press “Try again”.',
  },
  'microphone-missing': {
    message: 'No microphone was found.',
    hint: 'Plug one in, or choose the practice voice.',
  },
  'camera-missing': {
    message: 'No camera was found.',
    hint: 'Plug one in, record without a camera, or choose the practice teacher.',
  },
  'device-busy': {
    message: 'Another program is using the camera or the microphone.',
    hint: 'Close that program, then press “Try again”.',
  },
  'screen-refused': {
    message: 'No screen was chosen.',
    hint: 'Press “Choose what to show” and pick a screen, a window or a tab.',
  },
  'screen-unsupported': {
    message: 'This device can’t record other apps from a web page.',
    hint: 'Use the camera here, or bring in a film from the camera roll.',
  },
  'recording-unsupported': {
    message: 'This browser can’t record.',
    hint: 'Use a current Chrome or Edge (on a computer or an Android phone), or bring in a film made with the camera app.',
  },
  'camera-ended': {
    message: 'The camera has stopped giving a picture.',
    hint: 'The recording goes on without it. Plug it in and press “Try it again”, or use another.',
  },
  'microphone-ended': {
    message: 'The microphone has stopped giving sound.',
    hint: 'Nothing more is heard. Plug it in and press “Try it again”, or use another.',
  },
  'screen-ended': {
    message: 'What was being shown has been closed.',
    hint: 'The recording goes on with the last picture. Stop when you are done.',
  },
});

export type ErrorCode = keyof typeof ERRORS;

export const isErrorCode = (code: string): code is ErrorCode => Object.hasOwn(ERRORS, code);

/** Sentence and next step for any code, known or not. */
export const errorText = (code: string): ErrorText =>
  ERRORS[isErrorCode(code) ? code : 'unexpected'];

/** The body of every answer of the API that is not a success. */
export const problemSchema = z.object({
  code: z.string(),
  message: z.string(),
  hint: z.string(),
  /** The moment that it is about, ISO 8601 in UTC. */
  when: z.string().optional(),
});
export type Problem = z.infer<typeof problemSchema>;

/** An error with a code from the table. `detail` is for the log, never for the screen. */
export class AppError extends Error {
  readonly code: ErrorCode;
  /** The moment that it is about, where it is about one: ISO 8601 in UTC. */
  readonly when: string | null;
  constructor(
    code: ErrorCode,
    detail?: string,
    { when = null, ...options }: ErrorOptions & { readonly when?: string | null } = {},
  ) {
    super(detail ? `${code}: ${detail}` : code, options);
    this.name = 'AppError';
    this.code = code;
    this.when = when;
  }
}
