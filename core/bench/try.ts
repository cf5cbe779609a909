import { newDesign } from '/work/main/core/src/design/design.ts';
import { expand } from '/work/main/core/src/mechanisms/expand.ts';
import { newInstance } from '/work/main/core/src/mechanisms/instance.ts';
import { FAMILIES } from '/work/main/core/src/mechanisms/registry.ts';
import { reportOf } from '/work/main/core/src/checks/report.ts';
{
  for (const f of FAMILIES) {
    if (process.env.FAM && !process.env.FAM.split(',').includes(f.id)) continue;
    const design = newDesign('T', { closedWidthMm: 148, closedHeightMm: 150 });
    const e = expand(design);
    const g = f.on === 'fold' ? e.gutter : e.gutters.find((x) => x.lineId === 'panel:right')!;
    const inst = newInstance(f, g, 'm');
    const bad = f.constraints(inst.params, g, 2).filter((c) => c.overMm > 0);
    const d = { ...design, instances: { m: inst } };
    const t0 = performance.now();
    const r = reportOf(d);
    const all = [r, ...r.pulls].map((p) => ({ d: p.sweep.linkage.drivers[p.sweep.driver].name, c: p.sweep.components.map((c) => `${c.state} n${c.unknowns} f${c.freedom} ${c.fromDeg}-${c.toDeg} ${c.worstMm.toExponential(1)}`), k: p.catches.map((c) => `${p.sweep.linkage.panels[c.a].name}|${p.sweep.linkage.panels[c.b].name} ${c.fromDeg.toFixed(1)}-${c.toDeg.toFixed(1)} ${c.depthMm.toFixed(2)}`) }));
    console.log(f.id, (performance.now() - t0).toFixed(0) + 'ms', bad.map((b) => b.reason), JSON.stringify(all, null, 0), r.findings.map((x) => x.sentence));
  }
}