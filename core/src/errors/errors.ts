import * as z from 'zod';

/** What a person is told when something did not work: what happened, and what to do next. */
interface Told {
  readonly sentence: string;
  readonly next: string;
  /** Answer of the API (RFC 9110). Absent where it only ever comes up in the browser. */
  readonly status?: number;
}

const told = <T extends Record<string, Told>>(table: T): T => table;

/** Every error a person can meet. Codes are stable; sentences may be bettered. */
// Marked as pure, so that bundlers can leave it out of students' pages, which have a catalogue.
export const ERRORS = /* @__PURE__ */ told({
  'not-found': {
    status: 404,
    sentence: 'There is nothing here.',
    next: 'Check the address, or go back to your lessons.',
  },
  'not-open-yet': {
    status: 403,
    sentence: 'This film isn’t available yet.',
    next: 'Come back when it opens.',
  },
  'mail-not-taken': {
    status: 502,
    sentence: 'The mail server did not take it.',
    next: 'Check its name, port, user and password.',
  },
  'not-for-you': {
    status: 403,
    sentence: 'This film is for certain students.',
    next: 'Open it from your own page. Your teacher can give you the link.',
  },
  'site-unknown': {
    status: 403,
    sentence: 'This course site isn’t joined with Under Chalk.',
    next: 'Tell your teacher: it is joined under Classes, Course sites.',
  },
  'site-unreachable': {
    status: 502,
    sentence: 'The course site doesn’t answer Under Chalk.',
    next: 'Go back to it and try again in a while.',
  },
  'site-unfit': {
    status: 400,
    sentence: 'The course site can’t be joined like this.',
    next: 'It leaves something out, or doesn’t take Under Chalk in. Join it by hand, under Classes, Course sites.',
  },
  'launch-forged': {
    status: 403,
    sentence: 'What the course site sent could not be believed.',
    next: 'Go back to your course and open it again from there.',
  },
  'launch-over': {
    status: 410,
    sentence: 'This was sent too long ago.',
    next: 'Go back to your course and open it again from there.',
  },
  'launch-again': {
    status: 409,
    sentence: 'This was used once already.',
    next: 'Go back to your course and open it again from there.',
  },
  'launch-unbound': {
    status: 403,
    sentence: 'This sign-in didn’t begin in this browser, or the browser blocks cookies here.',
    next: 'Open the film again from your course. If that doesn’t help, allow cookies for it, or use another browser.',
  },
  'launch-elsewhere': {
    status: 403,
    sentence: 'What the course site sent was meant for somebody else.',
    next: 'Tell your teacher: what the site knows Under Chalk by may be wrong.',
  },
  'launch-unfit': {
    status: 400,
    sentence: 'The course site left out something that is needed.',
    next: 'Tell your teacher: the course, and who you are, have to be passed on.',
  },
  'course-without-class': {
    status: 409,
    sentence: 'This course has no class in Under Chalk yet.',
    next: 'Your teacher chooses it under Classes, Course sites.',
  },
  'name-not-told': {
    status: 409,
    sentence: 'The course site doesn’t say who you are.',
    next: 'Ask your teacher to have it pass names on, or for the address of your own page.',
  },
  'too-many-courses': {
    sentence: 'This course site has more courses than Under Chalk keeps.',
    next: 'Ask your teacher to remove the site and join it again: courses that are still used come back when they are opened.',
    status: 409,
  },
  'too-many-sites': {
    status: 409,
    sentence: 'There are fifty course sites already.',
    next: 'Take one away that isn’t used any more.',
  },
  'number-needed': {
    status: 403,
    sentence: 'This page needs a PIN.',
    next: 'Open your own page and enter the six digits that your teacher gave you.',
  },
  'wrong-number': {
    status: 403,
    sentence: 'That PIN is wrong.',
    next: 'Try again, or ask your teacher for it.',
  },
  'no-page': {
    status: 404,
    sentence: 'This page no longer exists.',
    next: 'Ask your teacher for the new link.',
  },
  'ticket-over': {
    status: 410,
    sentence: 'This address was valid for a few minutes only.',
    next: 'Go back to the film’s page and reload it.',
  },
  'no-longer-open': {
    status: 410,
    sentence: 'This film is no longer available.',
    next: 'Ask your teacher whether it will open again.',
  },
  'bad-request': {
    status: 400,
    sentence: 'This could not be understood.',
    next: 'Reload the page and try again.',
  },
  'signed-out': {
    status: 401,
    sentence: 'You are not signed in.',
    next: 'Sign in with your passphrase.',
  },
  'wrong-passphrase': {
    status: 403,
    sentence: 'That is not the passphrase.',
    next: 'Try again; capital letters count.',
  },
  'too-many-tries': {
    status: 429,
    sentence: 'Others of yours are still being checked.',
    next: 'Wait half a minute, then try again.',
  },
  'too-busy': {
    status: 429,
    sentence: 'Too much is being sent from your network at once. Nothing was changed.',
    next: 'Wait a few seconds, then try again.',
  },
  'already-set-up': {
    status: 409,
    sentence: 'This Under Chalk has its teacher already.',
    next: 'Sign in with the passphrase.',
  },
  'wrong-code': {
    status: 403,
    sentence: 'The set-up code is not right.',
    next: 'Use the address printed where the app was started.',
  },
  'foreign-origin': {
    status: 403,
    sentence: 'This came from another site.',
    next: 'Open Under Chalk itself and try again.',
  },
  'changed-elsewhere': {
    status: 409,
    sentence: 'The same thing was changed in another tab.',
    next: 'Choose which of the two to keep.',
  },
  'exists-already': {
    status: 409,
    sentence: 'This exists already.',
    next: 'Reload the page.',
  },
  'not-ready': {
    status: 409,
    sentence: 'This is not ready yet.',
    next: 'Wait a moment and try again.',
  },
  /** 503, because players retry it, and no 4xx. */
  'being-made': {
    status: 503,
    sentence: 'This part of the film is still being made.',
    next: 'Wait a moment and try again.',
  },
  'nothing-in-film': {
    status: 409,
    sentence: 'There is nothing in the film yet.',
    next: 'Record something, or bring back what was cut.',
  },
  'too-large': {
    status: 413,
    sentence: 'The file is too large.',
    next: 'Bring in a shorter film, or one of a smaller size.',
  },
  'disk-full': {
    status: 507,
    sentence: 'The disk of the server is full.',
    next: 'Make room there and try again; nothing that was recorded is lost.',
  },
  'file-empty': {
    sentence: 'The file is empty.',
    next: 'Choose another file; if it came from a phone, wait until it has been copied whole.',
    status: 422,
  },
  'file-not-film': {
    sentence: 'This file is not a film that can be opened here.',
    next: 'Choose an MP4, MOV or WebM file.',
    status: 422,
  },
  'film-unreadable': {
    sentence: 'The film is damaged and nothing in it can be played.',
    next: 'Copy it anew from where it came from, or choose another.',
    status: 422,
  },
  'picture-unreadable': {
    sentence: 'Its picture is damaged and can’t be played.',
    next: 'The rest of it is here. Nothing has been thrown away: it can be made ready anew.',
    status: 422,
  },
  'sound-unreadable': {
    sentence: 'Its sound is damaged and can’t be played.',
    next: 'The rest of it is here. Nothing has been thrown away: it can be made ready anew.',
    status: 422,
  },
  'file-not-ink': {
    sentence: 'This file holds no ink that can be read.',
    next: 'Save it as InkML in the program that it was written with, and choose it again.',
    status: 415,
  },
  'file-not-material': {
    sentence: 'This is no kind of file that can be shown here.',
    next: 'Choose a PDF, a picture, a saved page of the web, or a text; anything else, save as a PDF first.',
    status: 422,
  },
  'file-not-taken': {
    sentence: 'This kind of file can’t be submitted.',
    next: 'Choose a picture, PDF, document, text, sound or film.',
    status: 422,
  },
  'too-many-files': {
    status: 409,
    sentence: 'That’s too many files.',
    next: 'Remove some first.',
  },
  'too-many-answers': {
    status: 409,
    sentence: 'This question takes no more answers from people without a name.',
    next: 'Ask your teacher for your own link.',
  },
  'too-many-submissions': {
    status: 409,
    sentence: 'This link takes no more submissions.',
    next: 'Ask your teacher for another link.',
  },
  'material-locked': {
    sentence: 'This file can only be opened with a password.',
    next: 'Save it without one, and bring that in.',
    status: 422,
  },
  'material-unreadable': {
    sentence: 'This file is damaged, and none of its pages can be shown.',
    next: 'Copy it anew from where it came from, or save it as a PDF again.',
    status: 422,
  },
  'material-too-long': {
    sentence: 'This file has more than 1,000 pages.',
    next: 'Save the pages that you will show as a file of their own.',
    status: 422,
  },
  'material-too-heavy': {
    sentence: 'There is more in this file than can be shown.',
    next: 'Save it with smaller pictures or fewer drawings, or bring in only the pages you need.',
    status: 422,
  },
  'office-missing': {
    status: 422,
    sentence: 'This server can’t open files of office programs.',
    next: 'Save it as a PDF and bring that in; or have LibreOffice installed where Under Chalk runs.',
  },
  'too-many-materials': {
    status: 409,
    sentence: 'This lesson has a hundred materials already.',
    next: 'Take some out of its list first.',
  },
  'bundle-unreadable': {
    status: 422,
    sentence: 'This is not the archive of a lesson, or it is damaged.',
    next: 'Save it once more with “Save all of it”, in the list of lessons that it comes from, and bring that in.',
  },
  'bundle-newer': {
    status: 422,
    sentence: 'This archive was made by a later version of Under Chalk.',
    next: 'Bring this one up to date first.',
  },
  'bundle-lacking': {
    status: 422,
    sentence: 'A part of the lesson is missing in this archive, or has been changed.',
    next: 'Save it once more where it comes from, and bring that in as it is.',
  },
  'bundle-swollen': {
    status: 422,
    sentence: 'Unpacked, this archive would be many times as large as it is.',
    next: 'The archive of a lesson isn’t: bring in one that was saved with “Save all of it”.',
  },
  'words-too-large': {
    status: 413,
    sentence: 'There are more words in this file than any lesson has.',
    next: 'Choose the file with the words of this lesson alone.',
  },
  'words-unreadable': {
    status: 422,
    sentence: 'No words can be read in this file.',
    next: 'Choose a WebVTT, SRT or TTML file, or a plain text.',
  },
  'words-empty': {
    status: 422,
    sentence: 'There are no words in this file.',
    next: 'Choose another, or paste the text.',
  },
  'nothing-to-time': {
    status: 409,
    sentence: 'There are no captions in the film in this language.',
    next: 'Paste or type the words first.',
  },
  'language-not-heard': {
    status: 422,
    sentence: 'This language can’t be put in time with a voice here.',
    next: 'Set the times by hand, or bring in a file that has them.',
  },
  'listener-failed': {
    status: 502,
    sentence: 'What should have listened did not, or did not say what it heard.',
    next: 'Try again; if it stays, look at the listener that this server was given (UNDER_CHALK_LISTENER).',
  },
  'listener-missing': {
    status: 422,
    sentence: 'Nothing on this server can listen to a voice.',
    next: 'Have pocketsphinx and pocketsphinx-en-us installed where Under Chalk runs.',
  },
  'too-many-saved-styles': {
    sentence: 'Twelve styles are kept already.',
    next: 'Let one of them go, and keep this one then.',
    status: 409,
  },
  'too-many-layouts': {
    sentence: 'Three layouts are kept already.',
    next: 'Let one of them go, and keep this one then.',
    status: 409,
  },
  'ink-unreadable': {
    sentence: 'What was written can’t be read.',
    next: 'The rest of the take is there. What came in is kept; try again.',
    status: 422,
  },
  'take-unreadable': {
    sentence: 'This take could not be made ready.',
    next: 'What was recorded is kept. Try again; if it stays, look into the log where the app was started.',
    status: 422,
  },
  'footage-too-slow': {
    sentence: 'Making this ready took longer than it may.',
    next: 'Try again when the computer has less to do, or bring in a simpler film.',
    status: 422,
  },
  'take-too-long': {
    sentence: 'This film is longer than a day.',
    next: 'Bring in a part of it.',
    status: 422,
  },
  'called-off': {
    sentence: 'You stopped this from being made ready.',
    next: 'It can be made ready again at any time.',
    status: 409,
  },
  'lesson-unreadable': {
    sentence: 'This lesson can’t be read by this version.',
    next: 'Nothing of it is lost. Start the newest Under Chalk, or look into the log where the app was started.',
    status: 500,
  },
  'take-empty': {
    sentence: 'Nothing had been recorded yet when this take ended.',
    next: 'Record it again; the rest of the lesson is as it was.',
    status: 422,
  },
  'export-failed': {
    sentence: 'The film could not be made.',
    next: 'Try again; what had been finished is kept.',
    status: 500,
  },
  'film-handed-out': {
    status: 409,
    sentence: 'Students can watch this film at a link.',
    next: 'Take the link away first; then the film can go.',
  },
  'cannot-fit': {
    status: 409,
    sentence: 'It is too long to be readable in so few megabytes.',
    next: 'Make it shorter, or hand it out by its link.',
  },
  'no-film-to-keep': {
    status: 409,
    sentence: 'No film of this lesson is finished.',
    next: 'Hand it out or make a file first; then that can be kept alone.',
  },
  'class-name-taken': {
    status: 409,
    sentence: 'There is a class of that name already.',
    next: 'Give it another name; its year or evening tells them apart.',
  },
  'too-many-classes': {
    status: 409,
    sentence: 'You have two hundred classes already.',
    next: 'Take away those that are over.',
  },
  'too-many-students': {
    status: 409,
    sentence: 'A class can have a thousand students.',
    next: 'Divide them among several classes.',
  },
  'both-submitted': {
    status: 409,
    sentence: 'Both have submitted work for the same link.',
    next: 'Keep them apart: choose “Different people”.',
  },
  'no-roster': {
    sentence: 'No classes could be found in that file.',
    next: 'Give a list as CSV, or an archive (ZIP) as OneRoster 1.2 has it.',
  },
  'room-in-use': {
    status: 409,
    sentence: 'A film is being made just now, and needs what is held.',
    next: 'Wait until it is done, then try again.',
  },
  'take-elsewhere': {
    status: 409,
    sentence: 'Another lesson shows this take too.',
    next: 'Leave it out of this lesson instead; it stays where it is needed.',
  },
  'footage-missing': {
    sentence: 'Footage of this lesson is missing from the disk.',
    next: 'Put the media folder back as it was, then try again.',
    status: 500,
  },
  'folder-in-use': {
    sentence: 'Another Under Chalk is using this data folder.',
    next: 'Close that one, or choose another folder with UNDER_CHALK_HOME=… npm start.',
  },
  'links-key-damaged': {
    sentence: 'The key of the links is damaged. Nothing was changed.',
    next: 'Restore the file “links.key” in the data folder from a backup. If there is none, move it away and start again: links still open, but their addresses can’t be shown again, and the password of your mail server has to be given again.',
  },
  'port-in-use': {
    sentence: 'The port is in use.',
    next: 'Close what uses it, or choose another with PORT=4751 npm start.',
  },
  'folder-unwritable': {
    sentence: 'The data folder can’t be written to.',
    next: 'Check who owns it and whether its disk can be written to, or choose another with UNDER_CHALK_HOME=… npm start.',
  },
  unexpected: {
    status: 500,
    sentence: 'Under Chalk met something it did not expect and has written it down.',
    next: 'Try again; if it stays, look into the log where the app was started.',
  },
  'server-unreachable': {
    sentence: 'Under Chalk can’t be reached.',
    next: 'What was recorded waits here and is sent as soon as the connection is back.',
  },
  'microphone-refused': {
    sentence: 'The browser does not let Under Chalk hear the microphone.',
    next: 'Press the sign beside the address, allow the microphone, then press “Try again”.',
  },
  'camera-refused': {
    sentence: 'The browser does not let Under Chalk see the camera.',
    next: 'Press the sign beside the address, allow the camera, then press “Try again”.',
  },
  'microphone-missing': {
    sentence: 'No microphone was found.',
    next: 'Plug one in, or choose the practice voice.',
  },
  'camera-missing': {
    sentence: 'No camera was found.',
    next: 'Plug one in, record without a camera, or choose the practice teacher.',
  },
  'device-busy': {
    sentence: 'Another program is using the camera or the microphone.',
    next: 'Close that program, then press “Try again”.',
  },
  'screen-refused': {
    sentence: 'No screen was chosen.',
    next: 'Press “Choose what to show” and pick a screen, a window or a tab.',
  },
  'screen-unsupported': {
    sentence: 'This device can’t record other apps from a web page.',
    next: 'Use the camera here, or bring in a film from the camera roll.',
  },
  'recording-unsupported': {
    sentence: 'This browser can’t record.',
    next: 'Use a current Chrome or Edge (on a computer or an Android phone), or bring in a film made with the camera app.',
  },
  'camera-ended': {
    sentence: 'The camera has stopped giving a picture.',
    next: 'The recording goes on without it. Plug it in and press “Try it again”, or use another.',
  },
  'microphone-ended': {
    sentence: 'The microphone has stopped giving sound.',
    next: 'Nothing more is heard. Plug it in and press “Try it again”, or use another.',
  },
  'screen-ended': {
    sentence: 'What was being shown has been closed.',
    next: 'The recording goes on with the last picture. Stop when you are done.',
  },
});

export type ErrorCode = keyof typeof ERRORS;

export const isErrorCode = (code: string): code is ErrorCode => Object.hasOwn(ERRORS, code);

/** Sentence and next step for any code, known or not. */
export const tell = (code: string): Told => ERRORS[isErrorCode(code) ? code : 'unexpected'];

/** The body of every answer of the API that is not a success. */
export const problemSchema = z.object({
  code: z.string(),
  sentence: z.string(),
  next: z.string(),
  /** The moment that it is about, ISO 8601 in UTC. */
  when: z.string().optional(),
});
export type Problem = z.infer<typeof problemSchema>;

/** An error with a code from the table. `detail` is for the log, never for the screen. */
export class TellableError extends Error {
  readonly code: ErrorCode;
  /** The moment that it is about, where it is about one: ISO 8601 in UTC. */
  readonly when: string | null;
  constructor(
    code: ErrorCode,
    detail?: string,
    { when = null, ...options }: ErrorOptions & { readonly when?: string | null } = {},
  ) {
    super(detail ? `${code}: ${detail}` : code, options);
    this.name = 'TellableError';
    this.code = code;
    this.when = when;
  }
}
