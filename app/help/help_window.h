// Help beside the window: a page for every step, card, sheet and part of the window, and for all keys.
#pragma once

#include <QDialog>
#include <vector>

#include "help/help_pages.h"

class QLineEdit;
class QListWidget;
class QTextBrowser;

namespace oa::app {

/// Stays open beside the window while that is worked in.
class HelpWindow : public QDialog {
  Q_OBJECT
 public:
  HelpWindow(std::vector<HelpPage> pages, QWidget* parent);
  /// Shows a page; one that is not there leaves the page that is shown.
  void showPage(const QString& id);
  [[nodiscard]] QString shown() const;
  [[nodiscard]] const std::vector<HelpPage>& pages() const { return pages_; }

 protected:
  void changeEvent(QEvent* event) override;

 private:
  void showChosen();
  void filter(const QString& words);
  std::vector<HelpPage> pages_;
  QLineEdit* search_;
  QListWidget* list_;
  QTextBrowser* page_;
};

}  // namespace oa::app
