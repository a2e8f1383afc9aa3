// The verbs of over-again-cli. Each prints its result on standard output and returns an error as a value.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/result.h"

namespace oa::cli {

struct Options {
  std::string scene;
  std::string output;
  std::string size;                      ///< "WxH"; empty: the scene's own
  std::string range;                     ///< "A..B"
  std::vector<std::string> assignments;  ///< --set
  std::string palette;                   ///< --palette: a palette file or a picture; empty: the scene's own colours
  std::string step;
  std::string dither = "pattern";
  std::string format;
  std::string quality = "good";
  double megabytes = 0;
  int kilobits = 0;
  std::string frame = "0";
  std::string part;   ///< loop, run, arrive or leave; empty: the run where anything arrives or leaves, else the loop
  std::string table;  ///< a CSV file with a row for each title
  std::optional<int> loops;
  int threads = 0;
  int bits = 8;
  bool alpha = false;
  bool poster = false;
  bool mute = false;
  bool quiet = false;
  bool stats = false;
  bool json = false;
  bool schema = false;
};

Status render(const Options& options);
Status still(const Options& options);
Status info(const Options& options);
Status describe(const Options& options);
Status check(const Options& options);
Status save(const Options& options);
Status profile(const Options& options);

}  // namespace oa::cli
