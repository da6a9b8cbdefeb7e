import { expose } from 'comlink';
import { SheetDesk } from './sheet-desk';

expose(new SheetDesk());
