import { answerHandouts, answerNewHandout } from '../../../../../server/handoutAnswers';

interface Context {
  readonly params: Promise<{ readonly id: string }>;
}

export async function GET(_request: Request, { params }: Context): Promise<Response> {
  return answerHandouts({ group: (await params).id });
}

export async function POST(request: Request, { params }: Context): Promise<Response> {
  return answerNewHandout(request, { group: (await params).id });
}
