#include "windows/guide.h"

#include <QFile>
#include <QLineEdit>
#include <QListWidget>
#include <QPointer>
#include <QTextBlock>
#include <QTextBrowser>
#include <QVBoxLayout>

#include "look/theme.h"

void load_guide_resources() { Q_INIT_RESOURCE(guide); }

namespace lostline::app {
namespace {

/// Pictures come in the width of the page.
class GuideView : public QTextBrowser {
 public:
  QVariant loadResource(int type, const QUrl& name) override {
    const QVariant found = QTextBrowser::loadResource(type, name);
    if (type != QTextDocument::ImageResource) return found;
    const QImage image = found.userType() == QMetaType::QByteArray
                             ? QImage::fromData(found.toByteArray())
                             : found.value<QImage>();
    return image.isNull() ? found : image.scaledToWidth(720, Qt::SmoothTransformation);
  }
};

/// Contents, search and text in one window.
class Guide : public QWidget {
 public:
  explicit Guide(QWidget* parent) : QWidget(parent, Qt::Window) {
    setObjectName(QStringLiteral("guideWindow"));
    setWindowTitle(QObject::tr("Guide"));
    resize(1040, 720);
    text_ = new GuideView;
    text_->setObjectName(QStringLiteral("guide"));
    text_->setAccessibleName(QObject::tr("Guide"));
    text_->document()->setDefaultFont(body_font(13));
    text_->document()->setBaseUrl(QUrl(QStringLiteral("qrc:/guide/")));
    text_->setSearchPaths({QStringLiteral(":/guide")});
    // Each language names its own file of docs/guide.
    QFile file(QStringLiteral(":/guide/") + QObject::tr("guide.md"));
    if (file.open(QIODevice::ReadOnly)) text_->setMarkdown(QString::fromUtf8(file.readAll()));
    contents_ = new QListWidget;
    contents_->setObjectName(QStringLiteral("guideContents"));
    contents_->setAccessibleName(QObject::tr("Contents"));
    contents_->setFixedWidth(230);
    words_ = new QLineEdit;
    words_->setObjectName(QStringLiteral("guideSearch"));
    words_->setPlaceholderText(QObject::tr("search the guide; Return finds the next place"));
    words_->setAccessibleName(QObject::tr("Search the guide"));
    words_->setClearButtonEnabled(true);
    auto* columns = new QHBoxLayout;
    columns->addWidget(contents_);
    columns->addWidget(text_, 1);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(words_);
    layout->addLayout(columns, 1);
    fill();
    QObject::connect(contents_, &QListWidget::currentRowChanged, this, [this](int row) {
      if (row >= 0) go(places_[static_cast<std::size_t>(row)]);
    });
    QObject::connect(words_, &QLineEdit::returnPressed, this, [this] { find(); });
    QObject::connect(words_, &QLineEdit::textEdited, this, [this] {
      text_->moveCursor(QTextCursor::Start);
      find();
    });
  }
  /// Goes to the paragraph that begins with a tool's name.
  void showTool(const QString& tool) {
    for (int row = 0; row < contents_->count(); ++row) {
      if (contents_->item(row)->data(Qt::UserRole).toString() == tool) {
        contents_->setCurrentRow(row);
        return go(places_[static_cast<std::size_t>(row)]);
      }
    }
  }

 private:
  /// Headings, and below the last of them the paragraphs that begin with a name in bold.
  void fill() {
    for (QTextBlock block = text_->document()->begin(); block.isValid(); block = block.next()) {
      const int level = block.blockFormat().headingLevel();
      QStringList names;
      if (level == 0) {
        for (auto it = block.begin(); !it.atEnd(); ++it) {
          const QTextFragment piece = it.fragment();
          const bool bold = piece.charFormat().fontWeight() > QFont::Medium;
          const QString said = piece.text().trimmed();
          if (!bold && said != QStringLiteral(",")) break;
          if (bold) names << (said.endsWith(QLatin1Char('.')) ? said.chopped(1) : said);
        }
      } else {
        names << block.text();
      }
      for (const QString& name : names) {
        auto* item = new QListWidgetItem((level == 0 ? QStringLiteral("    ") : QString()) + name,
                                         contents_);
        item->setData(Qt::UserRole, name);
        if (level == 1) item->setFont(body_font(13, true));
        places_.push_back(block.position());
      }
    }
  }
  void go(int position) {
    QTextCursor cursor(text_->document());
    cursor.setPosition(position);
    text_->moveCursor(QTextCursor::End);  // so that the place comes to the top
    text_->setTextCursor(cursor);
    text_->ensureCursorVisible();
    cursor.select(QTextCursor::BlockUnderCursor);
    QTextEdit::ExtraSelection mark;
    mark.cursor = cursor;
    mark.format.setBackground(role::marked);
    mark.format.setProperty(QTextFormat::FullWidthSelection, true);
    text_->setExtraSelections({mark});
  }
  void find() {
    if (words_->text().isEmpty() || text_->find(words_->text())) return;
    text_->moveCursor(QTextCursor::Start);  // on from the beginning
    text_->find(words_->text());
  }

  GuideView* text_;
  QListWidget* contents_;
  QLineEdit* words_;
  std::vector<int> places_;  ///< in the text, of each line of the contents
};

}  // namespace

void show_guide(QWidget* parent, const QString& tool) {
  static QPointer<Guide> guide;
  if (!guide) {
    load_guide_resources();
    guide = new Guide(parent);
  }
  guide->show();
  guide->raise();
  if (!tool.isEmpty()) guide->showTool(tool);
}

}  // namespace lostline::app
