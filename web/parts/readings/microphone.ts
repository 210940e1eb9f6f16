/** So many seconds from the microphone, untouched by the browser. @throws where it is not allowed */
export async function recordMicrophone(seconds: number): Promise<{ samples: Float32Array; rateHz: number }> {
  const media = await navigator.mediaDevices.getUserMedia({
    audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false },
  });
  try {
    const pieces: Blob[] = [];
    const recorder = new MediaRecorder(media);
    recorder.addEventListener("dataavailable", (event) => pieces.push(event.data));
    const ended = new Promise((resolve) => recorder.addEventListener("stop", resolve, { once: true }));
    recorder.start();
    await new Promise((resolve) => setTimeout(resolve, seconds * 1000));
    recorder.stop();
    await ended;
    const audio = new AudioContext();
    const decoded = await audio.decodeAudioData(await new Blob(pieces).arrayBuffer());
    await audio.close();
    return { samples: decoded.getChannelData(0).slice(), rateHz: decoded.sampleRate };
  } finally {
    for (const track of media.getTracks()) track.stop();
  }
}
