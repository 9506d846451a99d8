import type { Day } from '@core/kernel';
import { sentenceOf } from '@core/refusals';
import { RIGHTS } from '@api/access';
import { runAct, type Act, type Doer } from '../acts/index';
import type { Database } from '../db/index';
import { ACTS } from '../rooms';

/** Does acts as a person on a day: the demo is laid by the same acts people use. */
export class Actor {
  private keys = 0;
  constructor(
    private readonly database: Database,
    readonly companyId: number,
    private readonly personId: number,
    private readonly name: string,
  ) {}

  doer(workDate: Day): Doer {
    return {
      companyId: this.companyId,
      personId: this.personId,
      rights: RIGHTS,
      workDate,
      origin: 'demo',
    };
  }

  /** The documents the act made; throws where it is refused, as the demo's own plan must hold. */
  async does(act: string, input: unknown, day: Day): Promise<number[]> {
    const found: Act | undefined = ACTS.find((each) => each.endpoint.name === act);
    if (!found) throw new Error(`there is no act ${act}`);
    this.keys += 1;
    const key = `${this.name}-${this.keys}`;
    const answer = await runAct(this.database, found.asked(input), this.doer(day), key);
    if (!answer.ok) throw new Error(`${act}: ${answer.refusals.map(sentenceOf).join(' ')}`);
    return answer.result.made.map((document) => document.id);
  }
}
