import { HttpClient, provideHttpClient, withInterceptors } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { troubleOf } from './api';
import { Outage, outageInterceptor, TRY_EVERY } from './outage';

const AWAY = { type: '', title: '', status: 503, detail: 'The database is away.', code: 'database-away' };

describe('while the server or its database does not answer', () => {
  let http: HttpClient;
  let server: HttpTestingController;
  let outage: Outage;
  beforeEach(() => {
    jest.useFakeTimers();
    TestBed.configureTestingModule({
      providers: [provideHttpClient(withInterceptors([outageInterceptor])), provideHttpClientTesting()],
    });
    http = TestBed.inject(HttpClient);
    server = TestBed.inject(HttpTestingController);
    outage = TestBed.inject(Outage);
  });
  afterEach(() => {
    server.verify();
    jest.useRealTimers();
  });
  const refuse = (url: string, body = AWAY): void =>
    server.expectOne(url).flush(body, { status: body.status, statusText: 'x' });

  test('a save is sent again until it goes through, and it is said meanwhile', () => {
    const saved: unknown[] = [];
    http.put('/api/folios/f/letter', { version: 1 }).subscribe((answer) => saved.push(answer));
    refuse('/api/folios/f/letter');
    expect(outage.sentence()).toMatch(/database does not answer. Nothing is lost/);
    jest.advanceTimersByTime(TRY_EVERY);
    server.expectOne('/api/folios/f/letter').error(new ProgressEvent('error'));
    expect(outage.sentence()).toMatch(/server does not answer. What you changed stays/);
    jest.advanceTimersByTime(TRY_EVERY);
    expect(server.expectOne('/api/folios/f/letter').request.body).toEqual({ version: 1 });
    // Still the same request: nothing has been answered yet.
    expect(saved).toEqual([]);
    http.get('/api/me').subscribe();
    server.expectOne('/api/me').flush({});
  });

  test('once all have gone through, nothing is said any more', () => {
    const done: string[] = [];
    for (const url of ['/a', '/b']) http.get(url).subscribe(() => done.push(url));
    refuse('/a');
    refuse('/b', { ...AWAY, code: 'busy' });
    jest.advanceTimersByTime(TRY_EVERY);
    server.expectOne('/a').flush({});
    expect(outage.sentence()).toMatch(/busy/);
    refuse('/b', { ...AWAY, code: 'disk-full' });
    expect(outage.sentence()).toMatch(/no room left on the disk/);
    jest.advanceTimersByTime(TRY_EVERY);
    server.expectOne('/b').flush({});
    expect([outage.sentence(), done]).toEqual([null, ['/a', '/b']]);
  });

  test('what a person starts is not started a second time; they are told', () => {
    let told = '';
    http
      .post('/api/folios/f/runs', {})
      .subscribe({ error: (error: unknown) => (told = troubleOf(error).message) });
    refuse('/api/folios/f/runs');
    jest.advanceTimersByTime(10 * TRY_EVERY);
    expect([told, outage.sentence()]).toEqual(['The database is away.', null]);
  });

  test('a refusal is none of it, and who leaves ends the waiting', () => {
    let status = 0;
    http.get('/x').subscribe({ error: (error: { status: number }) => (status = error.status) });
    server.expectOne('/x').flush({}, { status: 409, statusText: 'x' });
    expect(status).toBe(409);
    const left = http.get('/y').subscribe();
    refuse('/y');
    left.unsubscribe();
    jest.advanceTimersByTime(TRY_EVERY);
    expect(outage.sentence()).toBeNull();
  });
});
