import { AddHook, ChangeHook, HookList, Practised } from './hooks.js';

/** Doors for answers from other services, as staff see them; the services have an address of their own, apart from these. */
export const HOOK_ENDPOINTS = {
  hooks: {
    method: 'get',
    path: '/folios/{folioId}/hooks',
    summary: 'The hooks of a folio, where other services send answers',
    answer: HookList,
  },
  addHook: {
    method: 'post',
    path: '/folios/{folioId}/hooks',
    summary: 'Add a hook; its key is told this once',
    body: AddHook,
    answer: HookList,
  },
  changeHook: {
    method: 'patch',
    path: '/folios/{folioId}/hooks/{hookId}',
    summary: 'Rename a hook, close or open it, or put an answer into another column from now on',
    body: ChangeHook,
    answer: HookList,
  },
  newHookKey: {
    method: 'post',
    path: '/folios/{folioId}/hooks/{hookId}/key',
    summary: 'Make a new key; the one before it counts for some days more',
    answer: HookList,
  },
  deleteHook: {
    method: 'delete',
    path: '/folios/{folioId}/hooks/{hookId}',
    summary: 'Delete a hook; what came by it stays on the roll',
    answer: HookList,
  },
  practiseHook: {
    method: 'post',
    path: '/folios/{folioId}/hooks/{hookId}/practice',
    summary: 'Have the practice service send a made-up submission, where there is one',
    answer: Practised,
  },
} as const;
