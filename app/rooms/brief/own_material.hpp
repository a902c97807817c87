#pragma once
/// \file A material of one's own: name, density, where that is from. It is kept beside the shipped ones.

#include <QLineEdit>
#include <QPushButton>

namespace gc::app {

class OwnMaterial : public QWidget {
    Q_OBJECT
  public:
    explicit OwnMaterial(QWidget* parent = nullptr);
    void begin();
    QLineEdit* name() const { return m_name; }
    QLineEdit* density() const { return m_density; }
    QLineEdit* source() const { return m_source; }
    QPushButton* keepButton() const { return m_keep; }

  Q_SIGNALS:
    void kept(const QString& name);
    void left();
    void problem(const QString& sentence);

  private:
    void keep();
    QLineEdit *m_name, *m_density, *m_source;
    QPushButton* m_keep;
};

} // namespace gc::app
