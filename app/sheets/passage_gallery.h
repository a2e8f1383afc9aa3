// Ways to arrive and to leave, each at work on the selected layer.
#pragma once

#include "edit/passages.h"
#include "model/document.h"
#include "sheets/live_gallery.h"

namespace oa::app {

class PassageGallery : public LiveGallery {
  Q_OBJECT
 public:
  explicit PassageGallery(Document& document, QWidget* parent = nullptr);
  /// For the selected layers as they are now.
  void prepare(bool leaving);
  /// The card of a ready one, or -1.
  [[nodiscard]] int cardOf(std::string_view name) const;

 private:
  Document& document_;
  bool leaving_ = false;
  std::vector<const ReadyPassage*> ready_;  // of the cards
};

}  // namespace oa::app
