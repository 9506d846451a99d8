import { decideLogo } from '@core/formats';
import { keepLogo as contract } from '@api/formats';
import { defineAct } from '../acts';

/** Puts a logo on our paper, or takes it off. */
export const keepLogo = defineAct(contract, {
  right: 'upkeep',
  says: 'keep our letterhead',
  done: 'logo kept',
  load: () => Promise.resolve(null),
  decide: (_ground, { image }) => decideLogo(image),
  preview: ({ image }) => ({ bytes: image?.length ?? 0 }),
  async write(tx, { image }, _ground, { companyId }) {
    await tx.run('UPDATE company SET logo = ? WHERE id = ?', [image && Buffer.from(image), companyId]);
    return { made: [], touched: [] };
  },
});
