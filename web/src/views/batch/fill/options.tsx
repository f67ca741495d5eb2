import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { chooseScale, instrumentsQuery, type Scale } from '~/devices/use-scale';
import { choosePort, hasWebSerial } from '~/devices/web-serial';
import { useStored } from '~/lib/use-stored';
import { Button } from '~/parts/button';
import { Choice, optionsOf, Toggles } from '~/parts/choice';
import { Close, Overlaid } from '~/parts/dialog';
import { ORDERS, type Order } from '~/views/batch/fill/sequence';
import { WAYS, type Way } from '~/views/batch/fill/ways';

type OnOff = 'on' | 'off';
const ON_OFF: { value: OnOff; label: string }[] = [
  { value: 'on', label: 'On' },
  { value: 'off', label: 'Off' },
];

/** How filling goes on this tablet. */
export function useFillOptions() {
  const [order, setOrder] = useStored<Order>('yantai/fill/order', 'container');
  const [auto, setAuto] = useStored<OnOff>('yantai/fill/auto', 'off');
  const [sound, setSound] = useStored<OnOff>('yantai/fill/sound', 'on');
  const [speech, setSpeech] = useStored<OnOff>('yantai/fill/speech', 'off');
  const [big, setBig] = useStored<OnOff>('yantai/fill/big', 'off');
  return { order, setOrder, auto, setAuto, sound, setSound, speech, setSpeech, big, setBig };
}
export type FillOptions = ReturnType<typeof useFillOptions>;

/** What is chosen on this tablet: the scale, the order, the way of this part, sound and speech. */
export function Options({
  options,
  scale,
  partName,
  way,
  can,
  onWay,
  onNear,
  onLog,
  onClose,
}: {
  options: FillOptions;
  scale: Scale;
  partName: string;
  way: Way;
  /** Whether the part can be measured so. */
  can: (way: Way) => boolean;
  onWay: (way: Way) => void;
  onNear: () => void;
  onLog: () => void;
  onClose: () => void;
}) {
  const instruments = (useQuery(instrumentsQuery).data ?? []).filter((one) => one.kind === 'scale');
  return (
    <Overlaid open onOpenChange={onClose} title="How this tablet fills" wide>
      <div className="space-y-4">
        <Choice
          label="Scale of this tablet"
          options={[
            { value: '', label: 'none: weights are typed' },
            ...instruments.map((one) => ({ value: one.id, label: `${one.name} (${one.connection})` })),
          ]}
          value={scale.instrument?.id ?? ''}
          onValue={chooseScale}
        />
        {scale.instrument?.connection === 'tablet' ? (
          hasWebSerial() ? (
            <Button onClick={() => void choosePort()}>Choose the port of this tablet</Button>
          ) : (
            <p className="text-sm text-muted">
              This browser reads no serial ports. Plug the scale into the computer that serves, or type.
            </p>
          )
        ) : null}
        <p className="text-sm">
          <Link to="/settings" className="underline">
            Scales and thermometers
          </Link>{' '}
          are named in the settings.
        </p>
        <Choice
          label="In which order"
          hint="Containers of people who must not eat something come first in every order."
          options={optionsOf(ORDERS)}
          value={options.order}
          onValue={options.setOrder}
        />
        <Choice
          label={`How ${partName} is measured`}
          options={optionsOf(WAYS).filter((one) => can(one.value))}
          value={way}
          onValue={onWay}
        />
        <div className="grid grid-cols-2 gap-4">
          <Toggles
            label="Go on by itself once it stands still inside the band"
            options={ON_OFF}
            value={options.auto}
            onValue={options.setAuto}
          />
          <Toggles label="Sound" options={ON_OFF} value={options.sound} onValue={options.setSound} />
          <Toggles
            label="Say the figure and the next step"
            options={ON_OFF}
            value={options.speech}
            onValue={options.setSpeech}
          />
          <Toggles label="Larger figures" options={ON_OFF} value={options.big} onValue={options.setBig} />
        </div>
      </div>
      <div className="mt-5 flex flex-wrap justify-end gap-3">
        <Button className="min-h-16" onClick={onNear}>
          How near it came
        </Button>
        <Button className="min-h-16" onClick={onLog}>
          What was noted
        </Button>
        <Button
          className="min-h-16"
          onClick={() => {
            onClose();
            setTimeout(() => window.print());
          }}
        >
          Print the sheet
        </Button>
        <Close>
          <Button look="main">Done</Button>
        </Close>
      </div>
    </Overlaid>
  );
}
