import { HttpClient, provideHttpClient, withInterceptors } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { csrfInterceptor } from './csrf-interceptor';
import { troubleOf } from './api';

test('a token of a former session is asked for anew, once, and the change goes again', () => {
  TestBed.configureTestingModule({
    providers: [provideHttpClient(withInterceptors([csrfInterceptor])), provideHttpClientTesting()],
  });
  const server = TestBed.inject(HttpTestingController);
  const token = (value: string) => server.expectOne('/api/csrf').flush({ token: value });
  const refuse = (code: string, status: number) =>
    server.expectOne('/api/x').flush({ code, detail: code }, { status, statusText: 'No' });
  const answers: unknown[] = [];
  const put = () =>
    TestBed.inject(HttpClient)
      .put('/api/x', {})
      .subscribe({
        next: (answer) => answers.push(answer),
        error: (error) => answers.push(troubleOf(error).code),
      });
  put();
  token('old');
  refuse('csrf', 403);
  token('new');
  const again = server.expectOne('/api/x');
  expect(again.request.headers.get('X-CSRF-Token')).toBe('new');
  again.flush({ done: true });
  // A second refusal is told, and one for another reason is at once.
  put();
  refuse('csrf', 403);
  token('newer');
  refuse('signed-out', 401);
  expect(answers).toEqual([{ done: true }, 'signed-out']);
  server.verify();
});
