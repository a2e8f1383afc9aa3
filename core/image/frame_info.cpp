#include "image/frame_info.h"

#include <algorithm>

namespace oa {

FrameInfo FrameInfo::cover(int sceneWidth, int sceneHeight, int width, int height) {
  FrameInfo frame;
  frame.width = width;
  frame.height = height;
  frame.sceneWidth = sceneWidth;
  frame.sceneHeight = sceneHeight;
  frame.scale = std::max(static_cast<double>(width) / sceneWidth, static_cast<double>(height) / sceneHeight);
  frame.left = (sceneWidth - width / frame.scale) / 2;
  frame.top = (sceneHeight - height / frame.scale) / 2;
  return frame;
}

}  // namespace oa
