#include "base/spent.h"

namespace oa {

thread_local Spent::Here Spent::here;

Spent* Spent::counting() { return here.spent; }
Spent::Owner Spent::current() { return here.owner; }

void Spent::settle(std::chrono::steady_clock::time_point now) {
  if (here.spent) here.spent->nanoseconds_[here.owner] += std::chrono::duration_cast<std::chrono::nanoseconds>(now - here.since).count();
  here.since = now;
}

Spent::Within::Within(Spent* spent, Owner owner) : before_(here), changes_(spent || here.spent) {
  if (!changes_) return;
  const auto now = std::chrono::steady_clock::now();
  settle(now);
  here = {spent, owner, now};
}

Spent::Within::~Within() {
  if (!changes_) return;
  const auto now = std::chrono::steady_clock::now();
  settle(now);
  // What went by meanwhile is nobody else's.
  here = {before_.spent, before_.owner, now};
}

Spent::Scope::Scope(Owner owner) : before_(here.owner), counts_(here.spent != nullptr) {
  if (!counts_) return;
  settle(std::chrono::steady_clock::now());
  here.owner = owner;
}

Spent::Scope::~Scope() {
  if (!counts_) return;
  settle(std::chrono::steady_clock::now());
  here.owner = before_;
}

}  // namespace oa
