import { namedError } from '../../core/errors';

/** The whole file cannot be taken. The message is one sentence for the person who sent it. */
export class FileRefused extends namedError('FileRefused') {
  constructor(
    message: string,
    /** What has to be stated about the file so that it can be taken: a field of the settings. */
    readonly toState: 'dateOrder' | 'mapping' | 'period' | 'counted' | null = null,
  ) {
    super(message);
  }
}
