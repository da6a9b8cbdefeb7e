import type { AddressInfo } from 'node:net';
import { parentPort } from 'node:worker_threads';
import { SMTPServer } from 'smtp-server';

const server = new SMTPServer({
  authOptional: true,
  hideSTARTTLS: true,
  disableReverseLookup: true,
  onData(stream, session, done) {
    stream.resume();
    stream.on('end', () => {
      for (const { address } of session.envelope.rcptTo) parentPort!.postMessage(address);
      done();
    });
  },
});
server.listen(0, '127.0.0.1', () => parentPort!.postMessage((server.server.address() as AddressInfo).port));
