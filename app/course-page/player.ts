/** The program of a film’s page in a course site: it tells the site how much was watched, and goes on where somebody was. */
import { WatchCounter } from '@under-chalk/core/watched/counter';
import { MOST_SECONDS } from '@under-chalk/core/watched/seconds';
import { findApi } from './site-api';
import { ToldWatched } from './told-watched';

/** How often the site is told while it plays, ms. */
const TELL_MS = 10_000;

const film = document.querySelector('video')!;
const line = document.getElementById('told')!;
const counter = new WatchCounter();
const began = performance.now();
const api = findApi(window);
const told = new ToldWatched(
  api,
  Number(film.dataset['seconds']),
  Number(film.dataset['complete']) / 100,
);
let over = false;

const show = () => {
  line.textContent = !api
    ? ''
    : told.isComplete
      ? 'Watched. Your course knows.'
      : `${Math.floor(told.share * 100)} % watched; your course counts it at ${film.dataset['complete']} %.`;
};
const tell = () => {
  if (over) return;
  told.played(counter.take(MOST_SECONDS), film.currentTime);
  show();
};
const end = () => {
  tell();
  if (!over) told.end((performance.now() - began) / 1_000);
  over = true;
};

film.addEventListener('loadedmetadata', () => {
  if (told.fromS > 0 && film.currentTime === 0) film.currentTime = told.fromS;
});
// From where it plays on, and not from the first look after that.
for (const moment of ['timeupdate', 'play', 'seeked']) {
  film.addEventListener(moment, () => {
    if (!film.paused) counter.at(film.currentTime, film.playbackRate);
  });
}
film.addEventListener('pause', () => {
  counter.at(film.currentTime, film.playbackRate);
  counter.leaves();
  tell();
});
film.addEventListener('seeking', () => counter.leaves());
setInterval(() => {
  if (!film.paused) tell();
}, TELL_MS);
addEventListener('pagehide', end);
for (const jump of document.querySelectorAll<HTMLElement>('[data-at]')) {
  jump.addEventListener('click', () => {
    film.currentTime = Number(jump.dataset['at']);
    film.focus();
  });
}
show();
