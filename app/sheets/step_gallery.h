// The steps that a recipe can be given, each at work on this layer's own picture.
#pragma once

#include "model/document.h"
#include "sheets/live_gallery.h"

class QLineEdit;
class QToolButton;

namespace oa::app {

class StepGallery : public LiveGallery {
  Q_OBJECT
 public:
  explicit StepGallery(Document& document, QWidget* parent = nullptr);
  /// For the current layer as it is now.
  void prepare();
  /// The card of a step, or -1 where it is not shown.
  [[nodiscard]] int cardOf(std::string_view step) const;
  /// That of one of its variants.
  [[nodiscard]] int cardOf(std::string_view step, std::string_view variant) const;
  [[nodiscard]] QAbstractButton* variants() const;
  [[nodiscard]] QLineEdit* search() const { return search_; }

 private:
  void refresh();
  Document& document_;
  // Of the cards: a step as it comes, or one of its variants.
  struct Offer {
    const StepSpec* step;
    const StepVariant* variant;
  };
  std::vector<Offer> offers_;
  QLineEdit* search_;
  QToolButton* variants_;
};

}  // namespace oa::app
