// The steps that a recipe can be given, each at work on this layer's own picture.
#pragma once

#include "model/document.h"
#include "sheets/live_gallery.h"

class QLineEdit;

namespace oa::app {

class StepGallery : public LiveGallery {
  Q_OBJECT
 public:
  explicit StepGallery(Document& document, QWidget* parent = nullptr);
  /// For the current layer as it is now.
  void prepare();
  /// The card of a step, or -1 where it is not shown.
  [[nodiscard]] int cardOf(std::string_view step) const;
  [[nodiscard]] QLineEdit* search() const { return search_; }

 private:
  void refresh();
  Document& document_;
  std::vector<const StepSpec*> steps_;  // of the cards
  QLineEdit* search_;
};

}  // namespace oa::app
