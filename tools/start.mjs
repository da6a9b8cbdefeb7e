import { build, checkNode, installDebian, installPackages, root } from './prepare.mjs';

process.chdir(root);
checkNode();
if (!process.env.SCRIPTUM_DATABASE_URL) installDebian({ mariadbd: 'mariadb-server' });
installPackages();
build();
await import('./dist/start-main.js');
