// VP9, by libvpx itself: its quality is set frame by frame, which FFmpeg's wrapper cannot.
#pragma once

#include <cstdint>
#include <memory>
#include <vector>

#include "base/rational.h"
#include "base/result.h"
#include "render/frames.h"

namespace oa {

struct Vp9Settings {
  int width = 2;
  int height = 2;
  Rational rate;
  bool alphaPlane = false;   ///< encodes a frame's alpha as its luma
  int quantiser = 14;        ///< usual quality, 0 to 63
  std::int64_t bitRate = 0;  ///< bits a second in place of it; 0: none
  int threads = 0;
  bool quick = false;  ///< as near to the picture in a larger file, sooner
};

/// One stream. Frames come out as they go in: nothing is held back, so a run's last frames know nothing of its end.
class Vp9Encoder {
 public:
  static Result<std::unique_ptr<Vp9Encoder>> open(const Vp9Settings& settings);
  ~Vp9Encoder();

  struct Packet {
    std::vector<std::uint8_t> bytes;
    bool key = false;
  };
  /// `key`: begins a group of pictures. `exact`: as near to the picture as the format gets.
  Result<Packet> encode(const FrameYuv& frame, std::int64_t number, bool key, bool exact);

 private:
  struct State;
  explicit Vp9Encoder(std::unique_ptr<State> state);
  std::unique_ptr<State> state_;
};

}  // namespace oa
