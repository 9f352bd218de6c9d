import { useValue } from "../../units/useValue";
import { Inputs, type PartProps } from "./common";

const ASKED = [
  "controller.capacitance_uf",
  "controller.max_voltage_v",
  "controller.capacitor_voltage_v",
  "battery.cell_resistance_mohm",
  "battery.wiring_resistance_mohm",
];

/** Filling the capacitors, opening under load, what a short circuit gives; the caution first. */
export function HighVolts({ bench, state, told }: PartProps) {
  const value = useValue();
  const { high_volts: high } = told;
  const { precharge, switchgear: gear } = high;
  const rows: [string, string, string][] = [
    ["Straight off the charger", value(high.volts, "V"), "all below is at these volts"],
    ["Short circuit", value(high.short_circuit_a, "A"), "volts over all the pack's ohms"],
    [
      "Fuse",
      gear.fuse_a === null ? "–" : `${gear.fuse_a} A`,
      `d.c., at least ${value(gear.volts, "V")}, breaks ${value(gear.breaks_a, "A")}`,
    ],
    [
      "Contactor",
      value(gear.lasting_a, "A"),
      `for long; opens ${value(gear.most_a, "A")} either way`,
    ],
  ];
  if (high.cable)
    rows.push([
      "Pack cable",
      `${value(high.cable.mm2, "mm2", 3)}`,
      `${high.cable.assumed ? "the thinnest that does; " : ""}each metre of way takes ${value(high.cable.drop_v_per_m, "V", 2)} and warms by ${value(high.cable.heat_w_per_m, "W", 2)}`,
    ]);
  const filling: [string, string, string][] = precharge
    ? [
        ["Resistor", value(precharge.resistor_ohm, "ohm"), "fills them in about a second"],
        [
          "Energy in the capacitors",
          value(precharge.energy_j, "J"),
          "half C V squared; as much heats the resistor",
        ],
        [
          "First instant",
          value(precharge.first_a, "A"),
          `${value(precharge.first_w, "W")} in the resistor`,
        ],
        ["Filled to 95 %", value(precharge.time_s, "s"), "three times R C"],
      ]
    : [];
  return (
    <div className="grid gap-x-8 gap-y-4 lg:grid-cols-[25rem_minmax(0,1fr)]">
      <div className="min-w-0">
        <h2 className="pb-1 text-[15px] font-semibold">Printed and measured</h2>
        <Inputs label="Printed and measured" bench={bench} state={state} paths={ASKED} />
      </div>
      <div className="min-w-0">
        <ul aria-label="What to mind">
          {high.cautions.map((say, place) => (
            <li
              key={say}
              className={`border-l-4 py-1 pl-3 ${place === 0 ? "border-watch text-[15px]" : "mt-2 border-line text-[13.5px]"}`}
            >
              {say}
            </li>
          ))}
        </ul>
        <Figures title="Pack, fuse, contactor" rows={rows} />
        {filling.length ? (
          <Figures title="Pre-charge" rows={filling} />
        ) : (
          <p className="pt-3 text-[13px] text-soft">
            With the capacitors added up, the pre-charge is reckoned here.
          </p>
        )}
      </div>
    </div>
  );
}

function Figures({ title, rows }: { title: string; rows: [string, string, string][] }) {
  return (
    <section aria-label={title} className="mt-4 max-w-2xl">
      <h2 className="text-[15px] font-semibold">{title}</h2>
      <dl>
        {rows.map(([label, figure, say]) => (
          <div
            key={label}
            className="grid grid-cols-[11rem_6rem_minmax(0,1fr)] gap-x-3 border-t border-line py-1 text-[13.5px]"
          >
            <dt>{label}</dt>
            <dd className="figure text-right">{figure}</dd>
            <dd className="text-soft">{say}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
