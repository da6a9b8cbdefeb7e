import { provideHttpClient, withInterceptors } from '@angular/common/http';
import { type ApplicationConfig, provideZonelessChangeDetection } from '@angular/core';
import { provideRouter, withComponentInputBinding } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideState, provideStore } from '@ngrx/store';
import { csrfInterceptor } from './api/csrf-interceptor';
import { deskIdInterceptor } from './api/desk-id';
import { outageInterceptor } from './api/outage';
import { routes } from './routes';
import { bringingInFeature } from './roll/state/bringing-in';
import * as bringingInEffects from './roll/state/bringing-in-effects';
import { checksFeature } from './state/checks';
import * as checksEffects from './state/checks-effects';
import { deskFeature } from './state/desk';
import * as deskEffects from './state/desk-effects';
import { foliosFeature } from './state/folios';
import * as foliosEffects from './state/folios-effects';
import * as marksEffects from './roll/state/marks-effects';
import { watchedFeature } from './state/watched';
import * as watchedEffects from './roll/state/watched-effects';
import { hooksFeature } from './roll/state/hooks';
import * as hooksEffects from './roll/state/hooks-effects';
import { formsFeature } from './roll/state/forms';
import * as formsEffects from './roll/state/forms-effects';
import { ordersFeature } from './state/orders';
import * as ordersEffects from './press/state/orders-effects';
import { postFeature } from './post-room/state/post';
import * as postEffects from './post-room/state/post-effects';
import { registerFeature } from './state/register';
import * as registerEffects from './register/state/register-effects';
import { rollFeature } from './state/roll';
import * as rollEffects from './roll/state/roll-effects';
import { sessionFeature } from './state/session';
import * as sessionEffects from './state/session-effects';
import * as writingEffects from './state/writing-effects';
import { writingFeature } from './state/writing';

export const appConfig: ApplicationConfig = {
  providers: [
    provideZonelessChangeDetection(),
    provideHttpClient(withInterceptors([deskIdInterceptor, outageInterceptor, csrfInterceptor])),
    provideRouter(routes, withComponentInputBinding()),
    provideStore(),
    provideState(sessionFeature),
    provideState(foliosFeature),
    provideState(deskFeature),
    provideState(rollFeature),
    provideState(bringingInFeature),
    provideState(writingFeature),
    provideState(registerFeature),
    provideState(checksFeature),
    provideState(postFeature),
    provideState(formsFeature),
    provideState(ordersFeature),
    provideState(hooksFeature),
    provideState(watchedFeature),
    provideEffects(
      sessionEffects,
      foliosEffects,
      deskEffects,
      rollEffects,
      marksEffects,
      bringingInEffects,
      writingEffects,
      registerEffects,
      checksEffects,
      postEffects,
      formsEffects,
      ordersEffects,
      hooksEffects,
      watchedEffects,
    ),
  ],
};
