import { provideZonelessChangeDetection } from '@angular/core';
import { bootstrapApplication } from '@angular/platform-browser';
import { FormPage } from './app/form-page';

bootstrapApplication(FormPage, { providers: [provideZonelessChangeDetection()] }).catch((error: unknown) =>
  console.error(error),
);
