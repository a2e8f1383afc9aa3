#include "base/spent.h"

namespace oa {
namespace {

using Clock = std::chrono::steady_clock;

struct Here {
  Spent::Owner owner = 0;
  Clock::time_point since;
  bool working = false;
};
thread_local Here here;

}  // namespace

std::atomic<Spent*> Spent::active{nullptr};

Spent::Spent(std::size_t owners) : nanoseconds_(owners) { active = this; }
Spent::~Spent() { active = nullptr; }

Spent::Owner Spent::current() { return here.owner; }

Spent::Scope::Scope(Owner owner) : spent_(counting()) {
  if (!spent_) return;
  const auto now = Clock::now();
  before_ = here.owner;
  outermost_ = !here.working;
  if (here.working) spent_->nanoseconds_[before_] += (now - here.since).count();
  here = {owner, now, true};
}

Spent::Scope::~Scope() {
  if (!spent_) return;
  const auto now = Clock::now();
  spent_->nanoseconds_[here.owner] += (now - here.since).count();
  here = {before_, now, !outermost_};
}

}  // namespace oa
