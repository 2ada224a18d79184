import { HALTED, type Sending } from '../../capture/sending/send-file';
import { ProgressLine } from '../../ui/progress-line';
import { Words } from '../../ui/text';

/** How far a file has come, and why it stands still. */
export const SendingLine = ({ sending, doing }: { sending: Sending; doing: string }) => {
  const { done, halted, leftUs } = sending;
  return (
    <>
      <ProgressLine done={done} doing={doing} leftUs={halted ? null : leftUs} />
      {halted ? <Words role="status">{HALTED[halted]}</Words> : null}
    </>
  );
};
