import { ORACLES } from './src/oracles/oracles';
const only = process.argv[2]; const from = Number(process.argv[3]); const n = Number(process.argv[4]);
for (const o of ORACLES.filter(o=>!only||o.id.startsWith(only))) { let most = 0, at = 0, bad: any[] = []; const t=Date.now(); for (let s = from; s < from + n; s++) { const d = await o.deviation(s); if (d > most) { most = d; at = s; } if (!(d <= o.promised)) bad.push([s, Number(d.toFixed(4))]); } console.log(o.id, most, at, 'promised', o.promised, JSON.stringify(bad), Date.now()-t, 'ms'); }
