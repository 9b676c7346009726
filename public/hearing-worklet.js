// Hands on what the microphone hears, a block at a time, with the moment at which it was heard. Nothing is kept here.
const BLOCK = 1024;

class Hearing extends AudioWorkletProcessor {
  constructor() {
    super();
    this.block = new Float32Array(BLOCK);
    this.filled = 0;
  }

  process([input]) {
    const channel = input?.[0];
    if (!channel) return true;
    for (let done = 0; done < channel.length; ) {
      const room = Math.min(BLOCK - this.filled, channel.length - done);
      this.block.set(channel.subarray(done, done + room), this.filled);
      this.filled += room;
      done += room;
      if (this.filled === BLOCK) {
        const at = currentTime + (done - BLOCK) / sampleRate;
        this.port.postMessage({ at, samples: this.block }, [this.block.buffer]);
        this.block = new Float32Array(BLOCK);
        this.filled = 0;
      }
    }
    return true;
  }
}

registerProcessor('hearing', Hearing);
