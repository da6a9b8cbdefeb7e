import { AddWatched, ChangeWatched, WatchedList } from './watched.js';

/** Files of which newer versions are taken over by themselves. */
export const WATCHED_ENDPOINTS = {
  watched: {
    method: 'get',
    path: '/folios/{folioId}/watched',
    summary: 'The watched files of a folio, and where files may be watched',
    answer: WatchedList,
  },
  addWatched: {
    method: 'post',
    path: '/folios/{folioId}/watched',
    summary: 'Watch a file for newer versions of a source',
    body: AddWatched,
    answer: WatchedList,
  },
  changeWatched: {
    method: 'patch',
    path: '/folios/{folioId}/watched/{watchedId}',
    summary:
      'Change where a watched file lies, how often it is looked at and what becomes of who is missing there, or switch it on or off',
    body: ChangeWatched,
    answer: WatchedList,
  },
  lookNow: {
    method: 'post',
    path: '/folios/{folioId}/watched/{watchedId}/look',
    summary: 'Look at a watched file now, also at a version that could not be taken before',
    answer: WatchedList,
  },
  deleteWatched: {
    method: 'delete',
    path: '/folios/{folioId}/watched/{watchedId}',
    summary: 'Watch a file no longer; what it brought stays on the roll',
    answer: WatchedList,
  },
  watchedVersion: {
    method: 'get',
    path: '/folios/{folioId}/watched/{watchedId}/version',
    summary: 'The version that waits for somebody to look at it, as it lies there',
    answerType: 'application/octet-stream',
  },
} as const;
