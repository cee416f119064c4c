import { connect } from '../../store/database';
import { databaseFile } from '../../store/paths';
import { intoBackground } from '../priority';
import { checkpoint } from './checkpoint';

/** So often it is looked how long the log has become. */
const EVERY_MS = 1000;

// Copies the write-ahead log into the database, so that no one who writes a line has to copy what an import left behind.
intoBackground();
const db = connect(databaseFile());
setInterval(() => checkpoint(db), EVERY_MS);
