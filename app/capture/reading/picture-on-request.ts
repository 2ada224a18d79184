import type { Reading } from './reading';

/**
 * Reads a picture track through a video element, frame by frame, whenever the other side asks. The worker
 * asks, because timers and drawing stand still in a page that is hidden, and messages don't.
 */
export const readPictures = (track: MediaStreamTrack): Reading => {
  const video = document.createElement('video');
  video.muted = true;
  video.playsInline = true;
  video.srcObject = new MediaStream([track]);
  // Some browsers decode only what is on the page.
  video.setAttribute('aria-hidden', 'true');
  Object.assign(video.style, { position: 'fixed', width: '1px', height: '1px', opacity: '0' });
  document.body.append(video);
  const playing = () => {
    video.play().catch((error: unknown) => console.error('a picture is not played', error));
  };
  playing();
  const { port1: port, port2: other } = new MessageChannel();
  port.onmessage = () => {
    if (video.readyState < HTMLMediaElement.HAVE_CURRENT_DATA || video.videoWidth === 0) {
      if (video.paused) playing();
      return port.postMessage(null);
    }
    const timestamp = Math.round((performance.timeOrigin + performance.now()) * 1000);
    const frame = new VideoFrame(video, { timestamp });
    port.postMessage(frame, [frame]);
  };
  return {
    given: { port: other },
    transfer: [other],
    close() {
      port.close();
      video.srcObject = null;
      video.remove();
    },
  };
};
