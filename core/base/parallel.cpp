#include "base/parallel.h"

#include <oneapi/tbb/blocked_range.h>
#include <oneapi/tbb/collaborative_call_once.h>
#include <oneapi/tbb/parallel_for.h>
#include <oneapi/tbb/task_arena.h>
#include <oneapi/tbb/task_scheduler_observer.h>
#include <sys/resource.h>
#include <unistd.h>

#include <algorithm>

#include "base/spent.h"

#ifdef __SANITIZE_THREAD__
#include <sanitizer/tsan_interface.h>
#endif

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

// What threads hand to each other by way of oneTBB, said to the thread sanitizer: the library is not built with it, so that its
// own locks are not seen.
class ThreadJoin {
 public:
#ifdef __SANITIZE_THREAD__
  void leave() const { __tsan_release(const_cast<ThreadJoin*>(this)); }
  void enter() const { __tsan_acquire(const_cast<ThreadJoin*>(this)); }

 private:
  char place_ = 0;
#else
  void leave() const {}
  void enter() const {}
#endif
};

void giveWayToOthers() {
  static const NicerHelpers helpers;
  makeNicer();
}

void parallelBands(int rows, const std::function<void(int, int)>& body, int bandRows) {
  const int bands = (rows + bandRows - 1) / bandRows;
  const ThreadJoin begin;
  const ThreadJoin end;
  begin.leave();
  // Helpers work for whom the caller does.
  Spent* const spent = Spent::counting();
  const Spent::Owner owner = Spent::current();
  tbb::parallel_for(tbb::blocked_range<int>(0, bands, 1), [&](const tbb::blocked_range<int>& range) {
    begin.enter();
    const Spent::Within within(spent, owner);
    for (int b = range.begin(); b < range.end(); ++b) body(b * bandRows, std::min(rows, (b + 1) * bandRows));
    end.leave();
  });
  end.enter();
}

struct ParallelOnce::Flag {
  tbb::collaborative_once_flag once;
  ThreadJoin done;
};

ParallelOnce::ParallelOnce() : flag_(std::make_unique<Flag>()) {}
ParallelOnce::~ParallelOnce() = default;

void ParallelOnce::call(const std::function<void()>& body) {
  tbb::collaborative_call_once(flag_->once, [&] {
    body();
    flag_->done.leave();
  });
  flag_->done.enter();
}

int threadsOf(int threads) { return threads > 0 ? threads : std::max(1, tbb::this_task_arena::max_concurrency()); }

void withThreads(int threads, const std::function<void()>& body) {
  if (threads <= 0) {
    body();
    return;
  }
  Spent* const spent = Spent::counting();
  const Spent::Owner owner = Spent::current();
  tbb::task_arena arena(threads);
  arena.execute([&] {
    const Spent::Within within(spent, owner);
    body();
  });
}

}  // namespace oa
