#include "store/sample.h"

namespace oa {

std::string sampleDrawing() {
  constexpr int kAcross = 128;
  constexpr int kDown = 48;
  std::string svg = "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"" + std::to_string(kSampleWidth) + "\" height=\"" +
                    std::to_string(kSampleHeight) + "\"><rect width=\"100%\" height=\"100%\" fill=\"#0f3a46\"/>";
  // Each row lies over the one above it; as many as hang into the tile from outside.
  for (int row = -3; row * kDown < kSampleHeight + kAcross; ++row) {
    const bool odd = (row & 1) != 0;
    for (int column = -1; column * kAcross < kSampleWidth + kAcross; ++column) {
      const std::string place =
          "\" cx=\"" + std::to_string(column * kAcross + (odd ? kAcross / 2 : 0)) + "\" cy=\"" + std::to_string((row + 1) * kDown) + "\"/>";
      // One wave of a tile in brass.
      const bool brass = ((row + 8) % 8) == 3 && ((column + 4) % 4) == 1;
      const char* const rings[] = {"#0f3a46", brass ? "#d9a441" : "#2c8c86", "#134b57", brass ? "#f3dfa2" : "#58b3a4", "#0f3a46"};
      for (int ring = 0; ring < 5; ++ring)
        svg += "<circle fill=\"" + std::string(rings[ring]) + "\" r=\"" + std::to_string(kAcross / 2 - ring * 13) + place;
    }
  }
  return svg + "</svg>";
}

}  // namespace oa
