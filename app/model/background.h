// Work off the window's thread, and what comes of it back on it.
#pragma once

#include <QCoreApplication>
#include <QObject>
#include <QPointer>
#include <QThreadPool>
#include <utility>

namespace oa::app {

/// Runs `work` on the pool and calls `done` with what it made on the window's thread; not at all if `receiver` is gone by then.
template <class Work, class Done>
void inBackground(QObject* receiver, Work work, Done done) {
  // The relay lives as long as the program; the receiver may be gone by the time the work is done.
  auto* relay = new QObject(QCoreApplication::instance());
  QThreadPool::globalInstance()->start(
      [relay, there = QPointer<QObject>(receiver), work = std::move(work), done = std::move(done)]() mutable {
        auto made = work();
        QMetaObject::invokeMethod(
            relay,
            [relay, there, made = std::move(made), done = std::move(done)]() mutable {
              relay->deleteLater();
              if (there) done(std::move(made));
            },
            Qt::QueuedConnection);
      });
}

}  // namespace oa::app
