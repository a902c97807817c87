#pragma once
/// \file What the window shows before there is a part: ways to begin one, finished ones to look at, recent
/// ones.

#include <QWidget>

#include <map>

class QVBoxLayout;

namespace gc::app {

class StartCard;

/// A part that comes with the program.
struct Example {
    QString key, name, about; ///< the key is the name of its file
};
const QList<Example>& examples();

class StartPage : public QWidget {
    Q_OBJECT
  public:
    explicit StartPage(QWidget* parent = nullptr);
    /// Reads anew which parts were opened lately.
    void refresh();
    /// For tests, by key: a way to begin ("outline", "draw", "picture", "import"), "guide", or an example.
    StartCard* card(const QString& key) const;

  Q_SIGNALS:
    void beginAsked(const QString& way);
    void exampleAsked(const QString& key);
    void guideAsked();
    void openAsked();
    void recentAsked(const QString& path);

  private:
    StartCard* addCard(const QString& key, const QString& title, const QString& about,
                       const QString& pictogram);
    QWidget* ways();
    QWidget* parts();
    QWidget* sideColumn();

    std::map<QString, StartCard*> m_cards;
    QVBoxLayout* m_recent = nullptr;
};

} // namespace gc::app
