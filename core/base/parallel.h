// The only door to threads for kernels: row bands, run in any order.
#pragma once

#include <functional>
#include <memory>

namespace oa {

/// Rows that one task makes. Small enough that a band of a wide frame stays in the L2 cache.
inline constexpr int kBandRows = 16;

/// Calls body(y0, y1) for bands of `bandRows` rows that cover [0, rows), on the threads of the
/// current arena. Bands are the same for any number of threads, so results are too.
void parallelBands(int rows, const std::function<void(int y0, int y1)>& body, int bandRows = kBandRows);

/// Calls something once, whichever thread asks first; bands may run within. Others wait until it is done, and help with those.
class ParallelOnce {
 public:
  ParallelOnce();
  ~ParallelOnce();
  ParallelOnce(const ParallelOnce&) = delete;
  ParallelOnce& operator=(const ParallelOnce&) = delete;
  void call(const std::function<void()>& body);

 private:
  struct Flag;
  std::unique_ptr<Flag> flag_;
};

/// From here on the calling thread, and every helper thread that runs bands, gives way to threads that somebody
/// waits for, such as that of a window.
void giveWayToOthers();

/// `threads`, or as many as the machine has where that is 0.
int threadsOf(int threads);

/// Runs `body` with at most `threads` threads (0: as many as the machine has).
void withThreads(int threads, const std::function<void()>& body);

}  // namespace oa
