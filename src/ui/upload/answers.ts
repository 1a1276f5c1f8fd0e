/** What the server says of logs on their way in. */

import { z } from 'zod';
import { INTAKE_STATES, type Intake } from '@/core/log/intake';

export const intakesSchema = z.array(
  z.custom<Intake>(
    (one) => z.looseObject({ id: z.string(), state: z.enum(INTAKE_STATES) }).safeParse(one).success,
  ),
);
