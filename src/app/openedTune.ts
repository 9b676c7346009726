import { cache } from 'react';
import { currentStudio } from '../server/database';
import { openWork } from '../server/tunes';

/** A tune as this request sees it: title and page are made of one reading. */
export const openedTune = cache((id: string) => openWork(currentStudio(), id));
