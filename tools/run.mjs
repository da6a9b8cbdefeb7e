// npm run press, npm run bench, npm run trial, npm run mutation: prepares what is needed, then runs the compiled command.
import { build, checkNode, installDebian, installPackages, root } from './prepare.mjs';

const [, , command, ...args] = process.argv;
// The files in the call are named from where the person stands; npm itself moves to the project's folder.
const from = process.env.INIT_CWD ?? process.cwd();
process.chdir(root);
checkNode();
if (command === 'bench') installDebian({ mariadbd: 'mariadb-server', chromium: 'chromium' });
if (command === 'trial') installDebian({ mariadbd: 'mariadb-server' });
installPackages();
build({ web: command === 'bench' });
process.chdir(from);
process.argv = [process.argv[0], command, ...args];
await import(`./dist/${command}-main.js`);
