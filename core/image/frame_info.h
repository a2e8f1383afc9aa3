// The frame being made, against the scene's own.
#pragma once

namespace oa {

/// The frame being made, and how it lies over the scene's own frame. Lengths in a scene are pixels of
/// the scene's frame; `scale` turns them into pixels of this one.
struct FrameInfo {
  int width = 1;
  int height = 1;
  double scale = 1;  ///< pixels of this frame for one pixel of the scene
  double left = 0;   ///< scene x of this frame's left edge
  double top = 0;    ///< scene y of this frame's upper edge
  double sceneWidth = 1;
  double sceneHeight = 1;

  /// Scene coordinates of a pixel's centre.
  [[nodiscard]] double sceneX(double px) const { return left + (px + 0.5) / scale; }
  [[nodiscard]] double sceneY(double py) const { return top + (py + 0.5) / scale; }

  /// A frame of `width` x `height` that covers the scene's frame about its centre: the scene is cut,
  /// never distorted, where the proportions differ.
  static FrameInfo cover(int sceneWidth, int sceneHeight, int width, int height);
};

/// The piece of a source that repeats without an edge, in pixels of the scene, turned by `degrees`.
struct TileSize {
  double width = 0;
  double height = 0;
  double degrees = 0;
};

}  // namespace oa
