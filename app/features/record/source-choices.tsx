import { canCaptureScreen, NONE, PRACTICE, type Device } from '../../capture/devices';
import { Choices } from '../../ui/choices';
import { Words } from '../../ui/text';
import type { Chosen, Sources } from './use-sources';

interface Props {
  readonly chosen: Chosen;
  readonly choose: (change: Partial<Chosen>) => void;
  readonly sources: Sources;
}

/** A device that was chosen before but is not there now is named, so that its absence is seen. */
const deviceChoices = (
  known: readonly Device[],
  chosen: string,
  practice: string,
  none: string,
  any: string,
  lastName: string,
) => {
  const named = known.filter((device) => device.id);
  // Whichever the browser gives, until one is chosen by name.
  const real = chosen === '' || named.length === 0 ? [{ id: '', label: any }, ...named] : named;
  const gone = ![NONE, PRACTICE, ...real.map((device) => device.id)].includes(chosen);
  return [
    ...real.map((device) => ({ value: device.id, label: device.label })),
    ...(gone
      ? [{ value: chosen, label: `${lastName || 'The one from last time'} (not here)` }]
      : []),
    { value: PRACTICE, label: practice },
    { value: NONE, label: none },
  ];
};

const nameOf = (known: readonly Device[], id: string) =>
  known.find((device) => device.id === id)?.label ?? '';

/** What is shown: a screen, the camera alone, or nothing. The practice screen stands among them. */
export const SurfaceChoices = ({ chosen, choose }: Omit<Props, 'sources'>) => {
  const screens = canCaptureScreen();
  const surface =
    chosen.source === 'screen' && chosen.screen === PRACTICE
      ? 'practice-screen'
      : chosen.source === 'board' && chosen.opens === 'materials'
        ? 'materials'
        : chosen.source;
  return (
    <>
      <Choices
        label="What to show"
        hideLabel
        stacked
        choices={[
          {
            value: 'screen',
            label: 'A screen, a window or a tab',
            hint: screens
              ? 'The browser asks which one. Only what you choose there is in the picture.'
              : 'This device can’t record another app’s screen from a web page. Record it with the device itself and bring the film in, or use the camera.',
            disabled: !screens,
          },
          {
            value: 'board',
            label: 'The board',
            hint: 'Pages to write on with a pen, a finger or the mouse.',
          },
          {
            value: 'materials',
            label: 'Materials',
            hint: 'Slides, pages and pictures that you bring in, to turn and write on.',
          },
          { value: 'camera', label: 'The camera alone', hint: 'Your face fills the picture.' },
          { value: 'sound', label: 'Sound alone', hint: 'Half a minute of talking, no picture.' },
          {
            value: 'practice-screen',
            label: 'The practice screen',
            hint: 'A tide table that scrolls and clicks by itself, to try things out.',
          },
        ]}
        value={surface}
        onChoose={(value) =>
          choose(
            value === 'practice-screen'
              ? { source: 'screen', screen: PRACTICE }
              : value === 'materials'
                ? { source: 'board', opens: 'materials', screen: 'real' }
                : { source: value as Chosen['source'], opens: 'board', screen: 'real' },
          )
        }
      />
      {chosen.source === 'board' && chosen.opens === 'board' ? (
        <>
          <Choices
            label="Its pages"
            choices={(['plain', 'squared', 'ruled', 'dotted'] as const).map((value) => ({
              value,
              label: value,
            }))}
            value={chosen.paper.ruling}
            onChoose={(ruling) => choose({ paper: { ...chosen.paper, ruling } })}
          />
          <Choices
            label="Light or dark"
            choices={[
              { value: 'dark', label: 'dark, as slate' },
              { value: 'light', label: 'light, as paper' },
            ]}
            value={chosen.paper.shade}
            onChoose={(shade) => choose({ paper: { ...chosen.paper, shade } })}
          />
        </>
      ) : null}
      {chosen.source === 'screen' ? (
        <Choices
          label="Sound of the computer"
          choices={[
            { value: 'off', label: 'leave out' },
            { value: 'on', label: 'record it too' },
          ]}
          value={chosen.screenSound ? 'on' : 'off'}
          onChoose={(value) => choose({ screenSound: value === 'on' })}
        />
      ) : null}
    </>
  );
};

/** With which camera and microphone. The practice devices stand among the real ones. */
export const DeviceChoices = ({ chosen, choose, sources }: Props) => (
  <>
    {chosen.source === 'sound' ? null : (
      <Choices
        label="Camera"
        choices={deviceChoices(
          sources.devices.cameras,
          chosen.camera,
          'Practice teacher',
          'no camera',
          'My camera',
          chosen.cameraName,
        ).filter((choice) => chosen.source !== 'camera' || choice.value !== NONE)}
        value={chosen.camera}
        onChoose={(camera) =>
          choose({ camera, cameraName: nameOf(sources.devices.cameras, camera) })
        }
      />
    )}
    <Choices
      label="Microphone"
      choices={deviceChoices(
        sources.devices.microphones,
        chosen.microphone,
        'Practice voice',
        'no microphone',
        'My microphone',
        chosen.microphoneName,
      )}
      value={chosen.microphone}
      onChoose={(microphone) =>
        choose({ microphone, microphoneName: nameOf(sources.devices.microphones, microphone) })
      }
    />
    {chosen.source === 'board' ? (
      <Choices
        label="Pen"
        choices={[
          { value: 'own', label: 'My own hand' },
          { value: PRACTICE, label: 'Practice pen' },
        ]}
        value={chosen.pen}
        onChoose={(pen) => choose({ pen: pen as Chosen['pen'] })}
      />
    ) : null}
    {chosen.camera === PRACTICE || chosen.microphone === PRACTICE ? (
      <Words size="small" tone="soft">
        Practice devices are drawn and spoken by Under Chalk itself, and are not kept for the next
        lesson. The clapper on the next page flashes and clicks at one instant, to see that picture
        and sound are in step.
      </Words>
    ) : null}
  </>
);
