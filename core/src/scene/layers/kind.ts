/** What has to be known of a kind of layer besides its value and how it is painted. */
export interface LayerKind<L> {
  /**
   * Whether a layer stands still from one frame of the film to the next: all of it is the same, but that its
   * pictures have gone on by a frame.
   */
  readonly standsStill: (before: L, after: L) => boolean;
}
