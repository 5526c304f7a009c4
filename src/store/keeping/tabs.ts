import { randomKey } from './scenes';

/** Name of this tab among the tabs of the browser. */
export const TAB = randomKey();
const ANSWER_MS = 250;

type Message =
  | { kind: 'who-holds'; scene: string; from: string }
  | { kind: 'held'; scene: string; to: string }
  | { kind: 'take-over'; scene: string; from: string }
  | { kind: 'yielded'; scene: string; to: string }
  | { kind: 'deleted'; scene: string };

/**
 * Talk between tabs about who holds a scene. The store itself refuses to write for a tab that does not hold the
 * scene; this only asks politely and tells the other side.
 */
export class TabTalk {
  private channel = new BroadcastChannel('clothesline-tabs');
  private held: string | null = null;
  private waiting = new Map<string, () => void>();

  /**
   * @param onTaken called when another tab takes the held scene over; it may finish its saving first
   * @param onDeleted called with the key of a scene that another tab deleted
   */
  constructor(
    private onTaken: () => Promise<void>,
    private onDeleted: (scene: string) => void = () => {},
    private tab: string = TAB,
  ) {
    this.channel.onmessage = (event: MessageEvent<Message>) => void this.receive(event.data);
  }

  private async receive(m: Message): Promise<void> {
    if (m.kind === 'deleted') this.onDeleted(m.scene);
    else if ('to' in m) {
      if (m.to === this.tab) this.waiting.get(`${m.kind} ${m.scene}`)?.();
    } else if (m.scene === this.held && m.from !== this.tab) {
      if (m.kind === 'who-holds') this.channel.postMessage({ kind: 'held', scene: m.scene, to: m.from });
      else {
        this.held = null;
        await this.onTaken();
        this.channel.postMessage({ kind: 'yielded', scene: m.scene, to: m.from });
      }
    }
  }

  private answer(kind: 'held' | 'yielded', scene: string, ms: number): Promise<boolean> {
    return new Promise((resolve) => {
      const done = (heard: boolean) => {
        this.waiting.delete(`${kind} ${scene}`);
        clearTimeout(timer);
        resolve(heard);
      };
      const timer = setTimeout(() => done(false), ms);
      this.waiting.set(`${kind} ${scene}`, () => done(true));
    });
  }

  /** Whether another living tab holds the scene. */
  async heldElsewhere(scene: string): Promise<boolean> {
    const heard = this.answer('held', scene, ANSWER_MS);
    this.channel.postMessage({ kind: 'who-holds', scene, from: this.tab });
    return heard;
  }

  hold(scene: string | null): void {
    this.held = scene;
  }

  /** Asks the holder to save and let go; goes on without an answer if there is none. */
  async takeOver(scene: string): Promise<void> {
    const heard = this.answer('yielded', scene, 4 * ANSWER_MS);
    this.channel.postMessage({ kind: 'take-over', scene, from: this.tab });
    await heard;
    this.held = scene;
  }

  /** Tells the other tabs that a scene is gone. */
  tellDeleted(scene: string): void {
    this.channel.postMessage({ kind: 'deleted', scene });
  }

  close(): void {
    this.channel.close();
  }
}
