import { styleJsonSchema } from '@/contracts';
import { handle } from '@/server/http';

export const GET = () => handle(async () => styleJsonSchema());
