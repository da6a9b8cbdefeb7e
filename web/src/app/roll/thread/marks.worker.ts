import { expose } from 'comlink';
import { MarksDesk } from './marks-desk';

expose(new MarksDesk());
