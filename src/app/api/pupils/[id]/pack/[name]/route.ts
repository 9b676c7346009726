import { currentStudio } from '../../../../../../server/database';
import { handle } from '../../../../../../server/http';
import { answerPack } from '../../../../../../server/packAnswers';
import { packOfPupil } from '../../../../../../server/packs';

interface Context {
  readonly params: Promise<{ readonly id: string; readonly name: string }>;
}

/** A pupil's pack of what is on the stand: see `answerPack`. */
export function GET(request: Request, { params }: Context): Promise<Response> {
  return handle(async () => {
    const { id, name } = await params;
    return answerPack(request, name, (choice, date) => packOfPupil(currentStudio(), id, choice, date));
  });
}
