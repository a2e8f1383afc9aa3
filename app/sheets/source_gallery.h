// What a layer can be made of, with moving thumbnails: for a new layer, or in place of a layer's source.
#pragma once

#include "edit/source_layers.h"
#include "model/document.h"
#include "sheets/live_gallery.h"

class QCheckBox;

namespace oa::app {

class SourceGallery : public LiveGallery {
  Q_OBJECT
 public:
  explicit SourceGallery(Document& document, QWidget* parent = nullptr);
  /// What a click on a card does from now on.
  enum class Purpose { NewLayer, ReplaceSource };
  void prepare(Purpose purpose);
  /// The card of a source's variety ("noise", "ridged"), or -1.
  [[nodiscard]] int cardOf(const std::string& step, const std::string& variety) const;
  [[nodiscard]] QCheckBox* coloured() const { return coloured_; }

 private:
  void refresh();
  void use(int card);
  void addLayer(const edit::SourceVariety& variety);
  void replaceSource(const edit::SourceVariety& variety);
  Document& document_;
  Purpose purpose_ = Purpose::NewLayer;
  std::vector<edit::SourceVariety> varieties_;
  std::vector<Colour> shownColours_;
  QCheckBox* coloured_;
};

}  // namespace oa::app
