import type { Routes } from '@angular/router';
import { signedIn } from './shell/signed-in';

export const routes: Routes = [
  {
    path: 'sign-in',
    title: 'Sign in – Scriptum',
    loadComponent: () => import('./shell/sign-in').then((m) => m.SignInPage),
  },
  {
    path: '',
    pathMatch: 'full',
    title: 'Folios – Scriptum',
    canActivate: [signedIn],
    loadComponent: () => import('./shell/folio-list').then((m) => m.FolioListPage),
  },
  {
    path: 'register',
    title: 'Register of all papers – Scriptum',
    canActivate: [signedIn],
    loadComponent: () => import('./shell/school-register').then((m) => m.SchoolRegisterPage),
  },
  {
    path: 'post-room',
    title: 'Post room – Scriptum',
    canActivate: [signedIn],
    loadComponent: () => import('./post-room/queue-page').then((m) => m.QueuePage),
  },
  {
    path: 'post-room/accounts',
    title: 'Mail accounts – Scriptum',
    canActivate: [signedIn],
    loadComponent: () => import('./post-room/accounts-page').then((m) => m.AccountsPage),
  },
  {
    path: 'practice-post',
    title: 'Practice post – Scriptum',
    canActivate: [signedIn],
    loadComponent: () => import('./post-room/practice-post').then((m) => m.PracticePostPage),
  },
  {
    path: 'letterhead',
    title: 'Letterhead – Scriptum',
    canActivate: [signedIn],
    loadComponent: () => import('./letterhead/letterhead-page').then((m) => m.LetterheadPage),
  },
  {
    path: 'folio/:folioId',
    canActivate: [signedIn],
    loadComponent: () => import('./desk/desk').then((m) => m.Desk),
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'page' },
      {
        path: 'roll',
        title: 'Roll – Scriptum',
        loadComponent: () => import('./roll/roll-station').then((m) => m.RollStation),
      },
      {
        path: 'roll/forms',
        title: 'Forms – Scriptum',
        loadComponent: () => import('./roll/forms/forms-view').then((m) => m.FormsView),
      },
      {
        path: 'roll/hooks',
        title: 'Other services – Scriptum',
        loadComponent: () => import('./roll/hooks/hooks-view').then((m) => m.HooksView),
      },
      {
        path: 'roll/watched',
        title: 'Watched files – Scriptum',
        loadComponent: () => import('./roll/watched/watched-view').then((m) => m.WatchedView),
      },
      {
        path: 'page',
        title: 'Page – Scriptum',
        loadComponent: () => import('./page/page-station').then((m) => m.PageStation),
      },
      {
        path: 'note',
        title: 'Note – Scriptum',
        loadComponent: () => import('./note/note-station').then((m) => m.NoteStation),
      },
      {
        path: 'press',
        title: 'Press – Scriptum',
        loadComponent: () => import('./press/sorting/sorting-view').then((m) => m.SortingView),
      },
      {
        path: 'press/names',
        title: 'File names – Scriptum',
        loadComponent: () => import('./press/filing-view').then((m) => m.FilingView),
      },
      {
        path: 'press/checks',
        title: 'Checks – Scriptum',
        loadComponent: () => import('./press/checks-view').then((m) => m.ChecksView),
      },
      {
        path: 'press/runs',
        title: 'Press runs – Scriptum',
        loadComponent: () => import('./press/runs-view').then((m) => m.RunsView),
      },
      {
        path: 'press/orders',
        title: 'By itself – Scriptum',
        loadComponent: () => import('./press/orders/orders-view').then((m) => m.OrdersView),
      },
      {
        path: 'register',
        title: 'Register – Scriptum',
        loadComponent: () => import('./register/register-station').then((m) => m.RegisterStation),
      },
      {
        path: 'register/review',
        title: 'Review – Scriptum',
        loadComponent: () => import('./register/review-view').then((m) => m.ReviewView),
      },
      {
        path: 'register/packs',
        title: 'Packs – Scriptum',
        loadComponent: () => import('./register/packs-view').then((m) => m.PacksView),
      },
    ],
  },
  { path: '**', redirectTo: '' },
];
