/** What the server may answer, by its English words; {} stands for what differs. */
export const answers: Record<string, string> = {
  'This time has just been taken. Nothing you typed is lost: choose another time and book it.':
    'Diese Zeit wurde gerade vergeben. Nichts, was Sie eingegeben haben, ist verloren: Wählen Sie eine andere Zeit und buchen Sie sie.',
  'This time has already gone by. Nothing you typed is lost: choose another time and book it.':
    'Diese Zeit ist schon vorbei. Nichts, was Sie eingegeben haben, ist verloren: Wählen Sie eine andere Zeit und buchen Sie sie.',
  "Your host's calendar doesn't answer at the moment, so this time can't be promised. Nothing you typed is lost: try again in a few minutes.":
    'Der Kalender Ihres Gegenübers antwortet gerade nicht, deshalb kann diese Zeit nicht zugesagt werden. Nichts ist verloren: Versuchen Sie es in ein paar Minuten noch einmal.',
  'Some of what was entered cannot be used; nothing was changed.':
    'Etwas von dem, was eingegeben wurde, kann nicht verwendet werden; nichts wurde geändert.',
  'Enter your name, so that we know who is coming.': 'Geben Sie Ihren Namen an, damit wir wissen, wer kommt.',
  'Enter your mail address: the invitation goes there.':
    'Geben Sie Ihre E-Mail-Adresse an: Die Einladung geht dorthin.',
  'This is not a complete mail address. It should look like name@museum.example.':
    'Das ist keine vollständige E-Mail-Adresse. Sie sollte aussehen wie name@museum.example.',
  'This is not a complete phone number. Enter it with its country code, like +44 20 7946 0958.':
    'Das ist keine vollständige Telefonnummer. Geben Sie sie mit der Landesvorwahl an, etwa +44 20 7946 0958.',
  'Please tick this to go on.': 'Bitte haken Sie dies an, um fortzufahren.',
  'Please choose an answer.': 'Bitte wählen Sie eine Antwort.',
  'Please answer this.': 'Bitte beantworten Sie dies.',
  'Please enter a number, like 12 or 3.5.': 'Bitte geben Sie eine Zahl ein, etwa 12 oder 3,5.',
  'Please say why, so that your host knows.': 'Bitte nennen Sie den Grund, damit Ihr Gegenüber Bescheid weiß.',
  'Enter the address where we meet.': 'Geben Sie die Adresse an, an der wir uns treffen.',
  "This page doesn't exist, or not any more. Check the address, or ask whoever sent it to you for a new one.":
    'Diese Seite gibt es nicht oder nicht mehr. Prüfen Sie die Adresse, oder bitten Sie um eine neue.',
  "This link doesn't lead to a booking, or not any more. Use the link in your latest mail about it.":
    'Dieser Link führt nicht oder nicht mehr zu einer Buchung. Nehmen Sie den Link aus Ihrer letzten E-Mail dazu.',
  'This time has been taken meanwhile. Choose another of the proposed ones, or wait for your host.':
    'Diese Zeit wurde inzwischen vergeben. Wählen Sie eine andere der vorgeschlagenen, oder warten Sie auf Nachricht.',
  'Too many attempts from here within a minute. Nothing is lost: wait a minute, then try again.':
    'Zu viele Versuche von hier innerhalb einer Minute. Nichts ist verloren: Warten Sie eine Minute und versuchen Sie es dann noch einmal.',
  "This can't be booked at the moment. Nothing you typed is lost; write to {} if you need it now.":
    'Das kann im Moment nicht gebucht werden. Nichts, was Sie eingegeben haben, ist verloren; schreiben Sie an {}, wenn es eilt.',
  'Only people of {} can book this. If you are one of them, sign in first, then open this page again.':
    'Nur Angehörige von {} können das buchen. Wenn Sie dazugehören, melden Sie sich zuerst an und öffnen Sie dann diese Seite noch einmal.',
  "This can't be booked here. Write to {}, and they enter it for you.":
    'Das kann hier nicht gebucht werden. Schreiben Sie an {}, dort wird es für Sie eingetragen.',
  'A name has at most 200 letters.': 'Ein Name hat höchstens 200 Zeichen.',
  'A remark has at most 4000 letters.': 'Eine Anmerkung darf höchstens 4000 Zeichen haben.',
  'A reason has at most 1000 letters.': 'Ein Grund hat höchstens 1000 Zeichen.',
  'An answer has at most {} letters here.': 'Eine Antwort hat hier höchstens {} Zeichen.',
  'Choose your time zone from the list.': 'Wählen Sie Ihre Zeitzone aus der Liste.',
  '“{}” is not a complete mail address.': '„{}“ ist keine vollständige E-Mail-Adresse.',
  "So many guests can't come along; the most is {}.": 'Mehr Gäste können nicht mitkommen; höchstens {}.',
  'This location is not offered, or not any more. Choose another one.':
    'Dieser Ort wird nicht oder nicht mehr angeboten. Wählen Sie einen anderen.',
  '“{}” is not among the answers, or not any more. Please choose again.':
    '„{}“ ist nicht oder nicht mehr unter den Antworten. Bitte wählen Sie noch einmal.',
  'Only one answer is possible here.': 'Hier ist nur eine Antwort möglich.',
  "This question can't be answered at the moment. Leave it out, or write to your host.":
    'Diese Frage kann im Moment nicht beantwortet werden. Lassen Sie sie aus, oder schreiben Sie uns.',
  'Please choose yes or no.': 'Bitte wählen Sie Ja oder Nein.',
  'This is not a complete web address. It should look like https://museum.example/plan.':
    'Das ist keine vollständige Webadresse. Sie sollte aussehen wie https://museum.example/plan.',
  'Please enter a date, like 2027-03-14.': 'Bitte geben Sie ein Datum ein, etwa 2027-03-14.',
  'Please answer this too.': 'Bitte beantworten Sie auch dies.',
  'This question was asked too long ago. Here is another one.':
    'Diese Frage wurde vor zu langer Zeit gestellt. Hier ist eine andere.',
  'That is not when it ends. Here is another one.': 'Das ist nicht das richtige Ende. Hier ist eine andere Frage.',
  'This is not the code. Look for the latest mail from us; tries left: {}.':
    'Das ist nicht der Code. Sehen Sie in unserer neuesten E-Mail nach; verbleibende Versuche: {}.',
  'The code was wrong five times, so the hold on this time expired. Book again, and a new code comes by mail.':
    'Der Code war fünfmal falsch, deshalb ist die Reservierung abgelaufen. Buchen Sie noch einmal, dann bekommen Sie einen neuen Code per E-Mail.',
  'This booking still waits for its code.': 'Diese Buchung wartet noch auf ihren Code.',
  'This is requested, and not decided yet.': 'Das ist angefragt und noch nicht entschieden.',
  'This is booked already.': 'Das ist schon gebucht.',
  'This booking was cancelled. Book a new time instead.':
    'Diese Buchung wurde abgesagt. Buchen Sie stattdessen eine neue Zeit.',
  'This request was declined. Book a new time instead.':
    'Diese Anfrage wurde abgelehnt. Buchen Sie stattdessen eine neue Zeit.',
  'The hold on this time expired, because nobody decided in time. Book a new time instead.':
    'Die Reservierung ist abgelaufen, weil niemand rechtzeitig entschieden hat. Buchen Sie stattdessen eine neue Zeit.',
  "This meeting has already begun, so it can't be changed any more.":
    'Dieser Termin hat schon begonnen und kann nicht mehr geändert werden.',
  "This meeting can't be moved here. Write to your host instead.":
    'Dieser Termin kann hier nicht verschoben werden. Schreiben Sie uns stattdessen.',
  "This meeting can't be cancelled here. Write to your host instead.":
    'Dieser Termin kann hier nicht abgesagt werden. Schreiben Sie uns stattdessen.',
  'It could be moved until it began. Write to your host instead.':
    'Bis zum Beginn konnte er verschoben werden. Schreiben Sie uns stattdessen.',
  'It could be moved until {} days before it begins. Write to your host instead.':
    'Bis {} Tage vor dem Beginn konnte er verschoben werden. Schreiben Sie uns stattdessen.',
  'It could be moved until 1 hour before it begins. Write to your host instead.':
    'Bis 1 Stunde vor dem Beginn konnte er verschoben werden. Schreiben Sie uns stattdessen.',
  'It could be moved until {} hours before it begins. Write to your host instead.':
    'Bis {} Stunden vor dem Beginn konnte er verschoben werden. Schreiben Sie uns stattdessen.',
  'It could be moved until 1 minute before it begins. Write to your host instead.':
    'Bis 1 Minute vor dem Beginn konnte er verschoben werden. Schreiben Sie uns stattdessen.',
  'It could be moved until {} minutes before it begins. Write to your host instead.':
    'Bis {} Minuten vor dem Beginn konnte er verschoben werden. Schreiben Sie uns stattdessen.',
  'It could be cancelled until it began. Write to your host instead.':
    'Bis zum Beginn konnte er abgesagt werden. Schreiben Sie uns stattdessen.',
  'It could be cancelled until {} days before it begins. Write to your host instead.':
    'Bis {} Tage vor dem Beginn konnte er abgesagt werden. Schreiben Sie uns stattdessen.',
  'It could be cancelled until 1 hour before it begins. Write to your host instead.':
    'Bis 1 Stunde vor dem Beginn konnte er abgesagt werden. Schreiben Sie uns stattdessen.',
  'It could be cancelled until {} hours before it begins. Write to your host instead.':
    'Bis {} Stunden vor dem Beginn konnte er abgesagt werden. Schreiben Sie uns stattdessen.',
  'It could be cancelled until 1 minute before it begins. Write to your host instead.':
    'Bis 1 Minute vor dem Beginn konnte er abgesagt werden. Schreiben Sie uns stattdessen.',
  'It could be cancelled until {} minutes before it begins. Write to your host instead.':
    'Bis {} Minuten vor dem Beginn konnte er abgesagt werden. Schreiben Sie uns stattdessen.',
  'You can confirm from 48 hours before it begins.': 'Bestätigen können Sie ab 48 Stunden vor dem Beginn.',
  'This time is not proposed any more. Choose one of the others.':
    'Diese Zeit wird nicht mehr vorgeschlagen. Wählen Sie eine der anderen.',
  "This link doesn't lead to an offer, or not any more. Use the link in your latest mail about it.":
    'Dieser Link führt nicht oder nicht mehr zu einem Angebot. Nehmen Sie den Link aus Ihrer letzten E-Mail dazu.',
  'One of these times has been taken already. The link in the mail about that booking leads to it.':
    'Eine dieser Zeiten ist schon vergeben. Der Link in der E-Mail zu dieser Buchung führt dorthin.',
  'This offer was withdrawn. Write to {} for other times.':
    'Dieses Angebot wurde zurückgezogen. Schreiben Sie {} wegen anderer Zeiten.',
  'This offer has expired. Write to {} for other times.':
    'Dieses Angebot ist abgelaufen. Schreiben Sie {} wegen anderer Zeiten.',
  'Nobody asks for a file here. Load the page again.':
    'Hier wird keine Datei verlangt. Laden Sie die Seite noch einmal.',
  'Too many files are being sent at the moment. Nothing is lost: try again in an hour, or book without the file.':
    'Im Moment werden zu viele Dateien geschickt. Nichts ist verloren: Versuchen Sie es in einer Stunde noch einmal, oder buchen Sie ohne die Datei.',
  'This file is not here any more. Choose it again.': 'Diese Datei ist nicht mehr hier. Wählen Sie sie noch einmal.',
  'This file is empty. Choose another one.': 'Diese Datei ist leer. Wählen Sie eine andere.',
  'A file has at most 4 MB here. Send a smaller one, or a link to it.':
    'Eine Datei hat hier höchstens 4 MB. Schicken Sie eine kleinere oder einen Link.',
  "This file can't be taken: it has to be a {}, and its name has to say so.":
    'Diese Datei kann nicht angenommen werden: Möglich sind PDF, PNG, JPEG und einfacher Text, und der Name muss es sagen.',
  'Something went wrong here, and nothing was changed. Try again; if it stays like this, tell whoever runs this installation.':
    'Hier ist etwas schiefgegangen, und nichts wurde geändert. Versuchen Sie es noch einmal; wenn es so bleibt, sagen Sie es denen, die diese Seite betreiben.',
  'That is more text than can be taken. Shorten it and send it again.':
    'Das ist mehr Text, als angenommen werden kann. Kürzen Sie ihn und senden Sie noch einmal.',
  'The request was given up before it was done. Send it again.':
    'Die Anfrage wurde abgebrochen, bevor sie fertig war. Senden Sie sie noch einmal.',
  'This page is not published yet. Ask {} when it will be.':
    'Diese Seite ist noch nicht veröffentlicht. Fragen Sie {}, wann es so weit ist.',
  'At most {} of these meetings can be booked ahead with one mail address. Move or cancel one of yours instead. If you need more, write to {}.':
    'Mit einer E-Mail-Adresse können höchstens {} dieser Termine im Voraus gebucht werden. Verschieben Sie einen Ihrer Termine oder sagen Sie einen ab. Wenn Sie mehr brauchen, schreiben Sie an {}.',
  'With this mail address, many meetings were booked within an hour. Nothing you typed is lost: try again later. If you need more, write to {}.':
    'Mit dieser E-Mail-Adresse wurden innerhalb einer Stunde viele Termine gebucht. Nichts, was Sie eingegeben haben, ist verloren: Versuchen Sie es später noch einmal. Wenn Sie mehr brauchen, schreiben Sie an {}.',
  '{} was invited many times today. Leave this guest out, or tell them yourself.':
    '{} wurde heute schon oft eingeladen. Lassen Sie diesen Gast weg, oder sagen Sie ihm selbst Bescheid.',
  'Very many meetings of this kind were booked today, so no more are taken for now. Nothing you typed is lost: try again tomorrow. If you need more, write to {}.':
    'Heute wurden sehr viele dieser Termine gebucht, deshalb werden im Moment keine weiteren angenommen. Nichts, was Sie eingegeben haben, ist verloren: Versuchen Sie es morgen noch einmal. Wenn Sie mehr brauchen, schreiben Sie an {}.',
  'Three codes were sent for this booking. Look for them among unwanted mail too, or withdraw it and book again.':
    'Für diese Buchung wurden schon drei Codes gesendet. Sehen Sie auch im Spam-Ordner nach, oder ziehen Sie die Anfrage zurück und buchen Sie noch einmal.',
  'You have sent too many files without booking. Nothing is lost: book with those there are, or try again tomorrow.':
    'Sie haben zu viele Dateien gesendet, ohne zu buchen. Nichts ist verloren: Buchen Sie mit denen, die da sind, oder versuchen Sie es morgen noch einmal.',
}
