// The bar at the top: menus, the scene's name, its frame, the lamp, what is reached most, and errors below it.
#pragma once

#include <QLineEdit>
#include <QMenuBar>
#include <QWidget>

#include "check/joint.h"
#include "commands/commands.h"
#include "model/document.h"

class QLabel;
class QPushButton;

namespace oa::app {

class TopBar : public QWidget {
  Q_OBJECT
 public:
  TopBar(Document& document, const Commands& commands, QWidget* parent = nullptr);
  /// What the joint measured; null while it is not known.
  void showLamp(const JointCheck* check);
  void showError(const QString& message);
  void hideError();
  /// The message of the last error, empty if it was closed.
  [[nodiscard]] QString errorShown() const;
  /// Puts the cursor into the scene's name.
  void editName();

 protected:
  void resizeEvent(QResizeEvent*) override;

 private:
  void refresh();
  void fitName();
  QWidget* makeError();

  Document& document_;
  QMenuBar* menus_;
  QLineEdit* name_;
  QLabel* dirty_;
  QPushButton* pill_;
  QString pillTip_;
  QPushButton* lamp_;
  QWidget* error_ = nullptr;
  QLabel* errorText_ = nullptr;
};

}  // namespace oa::app
