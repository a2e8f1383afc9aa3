#include "base/parallel.h"

#include <oneapi/tbb/blocked_range.h>
#include <oneapi/tbb/parallel_for.h>
#include <oneapi/tbb/task_arena.h>
#include <oneapi/tbb/task_scheduler_observer.h>
#include <sys/resource.h>
#include <unistd.h>

#include <algorithm>

namespace oa {
namespace {

constexpr int kNicer = 8;

void makeNicer() { ::setpriority(PRIO_PROCESS, static_cast<id_t>(::gettid()), kNicer); }

class NicerHelpers : public tbb::task_scheduler_observer {
 public:
  NicerHelpers() { observe(true); }
  ~NicerHelpers() override { observe(false); }
  void on_scheduler_entry(bool isWorker) override {
    if (isWorker) makeNicer();
  }
};

}  // namespace

void giveWayToOthers() {
  static const NicerHelpers helpers;
  makeNicer();
}

void parallelBands(int rows, const std::function<void(int, int)>& body, int bandRows) {
  const int bands = (rows + bandRows - 1) / bandRows;
  tbb::parallel_for(tbb::blocked_range<int>(0, bands, 1), [&](const tbb::blocked_range<int>& range) {
    for (int b = range.begin(); b < range.end(); ++b) body(b * bandRows, std::min(rows, (b + 1) * bandRows));
  });
}

void withThreads(int threads, const std::function<void()>& body) {
  if (threads <= 0) {
    body();
    return;
  }
  tbb::task_arena arena(threads);
  arena.execute(body);
}

}  // namespace oa
