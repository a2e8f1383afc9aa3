// The looks that there are: those that ship, and one's own, a file each.
#pragma once

#include <QObject>
#include <QString>
#include <vector>

#include "edit/look.h"

namespace oa::app {

class LookShelf : public QObject {
  Q_OBJECT
 public:
  using QObject::QObject;
  struct Kept {
    edit::Look look;
    QString file;  ///< of one's own; empty: it ships
  };
  /// Those that ship by their sections, one's own behind them by name. Files that cannot be read are left out. They are
  /// read when they are first asked for.
  [[nodiscard]] const std::vector<Kept>& looks() const;
  /// Where one's own lie.
  [[nodiscard]] static QString folder();
  /// Keeps one of one's own, in place of one of that name; where it lies, or what went wrong.
  Result<QString> keep(const edit::Look& look);
  /// Takes in one from elsewhere.
  Result<QString> takeIn(const QString& path);
  Status remove(const QString& file);

 Q_SIGNALS:
  void changed();

 private:
  void forget();
  mutable std::vector<Kept> looks_;  // empty: not read yet
};

}  // namespace oa::app
