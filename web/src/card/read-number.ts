import { readFormula, FormulaError } from '@itchkit/core/formula';

/** Factors to metres, degrees and seconds (the international inch and foot of 1959). */
const FACTORS: Record<string, Record<string, number>> = {
  length: { m: 1, mm: 0.001, cm: 0.01, km: 1000, in: 0.0254, '″': 0.0254, '"': 0.0254, ft: 0.3048, '′': 0.3048, "'": 0.3048, yd: 0.9144 },
  angle: { '°': 1, deg: 1, rad: 180 / Math.PI, turn: 360, turns: 360 },
  time: { s: 1, ms: 0.001, min: 60 },
  share: { '%': 1 },
  factor: { '×': 1, '%': 0.01 },
};

const NUMBER = String.raw`(?:\d+\.?\d*(?:e[+-]?\d+)?|\.\d+(?:e[+-]?\d+)?|pi|tau)`;
/** A number, or a product of some (three eighths of an inch are `3/8in`), or what closes, with the unit behind it. */
const WITH_UNIT = new RegExp(String.raw`(${NUMBER}(?:\s*[*/]\s*${NUMBER})*|\))\s*([a-z]+|[°″′"'%×])(?![\w(])`, 'gi');

/**
 * A number as it was typed into a field of a unit: with decimal comma or point, arithmetic, and other units of the same kind, as
 * `2*1.5`, `10in` or `45°+7.5`. Not a number where it can't be read.
 *
 * @param unit Of the field; what is typed without one is in it.
 */
export function readNumber(text: string, unit?: string): number {
  if (text.trim() === '') return NaN;
  const plain = Number(text.replace(',', '.'));
  if (Number.isFinite(plain)) return plain;
  const kind = Object.values(FACTORS).find((units) => unit !== undefined && unit in units) ?? {};
  let isKnown = true;
  const expression = text
    .replace(/(\d),(\d)/g, '$1.$2')
    .replace(/[×·]\s*(?=[\d(.])/g, '*')
    .replace(WITH_UNIT, (whole, number: string, name: string) => {
      const factor = kind[name] ?? kind[name.toLowerCase()];
      if (factor === undefined) {
        isKnown &&= name.toLowerCase() === unit;
        return number === ')' || !isKnown ? whole : `(${number})`;
      }
      const by = factor / kind[unit!];
      return number === ')' ? `)*${by}` : `((${number})*${by})`;
    });
  if (!isKnown) return NaN;
  try {
    return readFormula(expression)(NaN, NaN);
  } catch (error) {
    if (error instanceof FormulaError) return NaN;
    throw error;
  }
}
