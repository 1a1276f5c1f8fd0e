/** An equalisation of a battery that must not have one. */

import { volts } from '../quantity/text';
import { CHEMISTRY, isLead } from '../system/chemistry';
import type { HazardRule } from './hazard';
import { howOften } from './spells';

export const equaliseOnSealedOrLithium: HazardRule = ({ system: { bank }, charging }) => {
  if (bank.chemistry === 'flooded' || bank.equalise) return [];
  return charging.flatMap(({ source, charges }) => {
    const found = charges.flatMap((one) => one.stages).filter((one) => one.stage === 'equalise');
    if (found.length === 0) return [];
    const top = Math.max(...found.map((one) => one.topVolts));
    return [
      {
        code: 'equalise-on-sealed-or-lithium' as const,
        text: `${source?.name ?? 'A charger'} equalised this ${CHEMISTRY[bank.chemistry].name} battery ${howOften(found)}, at up to ${volts(top)}. ${
          isLead(bank.chemistry)
            ? 'A sealed battery cannot be given back the water that this drives out.'
            : 'It drives lithium cells past their limit.'
        } Switch equalisation off, unless the maker’s sheet asks for it.`,
        spans: found.map(({ from, to }) => ({ from, to })),
      },
    ];
  });
};
