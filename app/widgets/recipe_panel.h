// The recipe of the selected layer: one card for each step from source to blend.
#pragma once

#include <QPushButton>
#include <QScrollArea>
#include <map>
#include <set>

#include "model/document.h"
#include "widgets/param_row.h"

class QVBoxLayout;
class QLabel;
class QComboBox;

class QMenu;

namespace oa::app {

class TimeTaken;

class RecipePanel : public QWidget {
  Q_OBJECT
 public:
  explicit RecipePanel(Document& document, QWidget* parent = nullptr);
  /// Moves a step within the recipe; the source stays first.
  void moveStep(int from, int to);
  void addStep(const StepSpec& spec);
  void removeStep(int step);
  void duplicateStep(int step);
  void copyStep(int step);
  /// What the clipboard holds, behind a step.
  void pasteSteps(int after);
  /// Says what the current layer takes to make.
  void showTime(bool on);
  [[nodiscard]] bool showsTime() const;

 Q_SIGNALS:
  /// Somebody asks for another source of the current layer.
  void otherSourceWanted();
  /// Somebody asks for the gallery of steps.
  void stepsWanted();
  void looksWanted();
  /// Somebody asks for the gallery of arrivals.
  void passageWanted(bool leaving);

 private:
  friend class RecipeCard;
  void rebuild();
  void refresh();
  /// Where the focus is on the cards, in words that find it on the rebuilt ones; empty if it is elsewhere.
  [[nodiscard]] QStringList focusPlace() const;
  void focusOn(const QStringList& place);
  QVBoxLayout* addSection(QVBoxLayout* body, const QString& title, const QString& key, bool atRest, QWidget* card);
  void addRows(QVBoxLayout* body, const RecipeStep& step, int at, QWidget* card);
  QWidget* placeCard(const Layer& layer, QWidget* parent);
  QWidget* maskCard(const Layer& layer, QWidget* parent);
  void fillMaskMenu(QMenu* menu);
  [[nodiscard]] QString tileText(int step) const;

  Document& document_;
  QLabel* owner_;
  QPushButton* add_;
  QPushButton* looks_;
  TimeTaken* timeTaken_;
  QLabel* time_;
  QScrollArea* scroll_;
  QWidget* content_ = nullptr;
  std::vector<ParamRow*> rows_;
  std::vector<std::pair<QLabel*, int>> tiles_;  // and the step each speaks of
  QComboBox* blend_ = nullptr;
  bool inPixels_ = false;  // the numbers of the place
  QSize frame_;
  std::map<std::pair<Id, Id>, Id> chosenItems_;  // by layer and step
  std::set<QString> opened_;                     // of the layer's own cards, which are folded at first
  std::map<QString, bool> sections_;             // likewise the parts of cards that somebody folded or opened
  std::set<QString> folded_;                     // by layer, step and which of its kind: a card stays folded wherever it is moved
};

}  // namespace oa::app
