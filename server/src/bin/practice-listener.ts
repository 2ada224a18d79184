/**
 * A listener to practise with, in place of a school's own. `practice-listener <port>` waits for sound; `practice-listener <file.wav>` listens
 * to a file.
 */
import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { practiceAnswer } from '../words/practice-hearing';

const [asked = '4790'] = process.argv.slice(2);
if (/^\d+$/.test(asked)) {
  createServer((request, response) => {
    const parts: Buffer[] = [];
    request.on('data', (part: Buffer) => parts.push(part));
    request.on('end', () => {
      response.setHeader('Content-Type', 'application/json');
      response.end(practiceAnswer(Buffer.concat(parts)));
    });
  }).listen(Number(asked), '127.0.0.1', () =>
    console.log(`Listening at http://127.0.0.1:${asked}`),
  );
} else console.log(practiceAnswer(readFileSync(asked)));
