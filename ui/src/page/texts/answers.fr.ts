/** What the server may answer, by its English words; {} stands for what differs. */
export const answers: Record<string, string> = {
  'This time has just been taken. Nothing you typed is lost: choose another time and book it.':
    'Cet horaire vient d’être pris. Rien de ce que vous avez saisi n’est perdu : choisissez-en un autre et réservez-le.',
  'This time has already gone by. Nothing you typed is lost: choose another time and book it.':
    'Cet horaire est déjà passé. Rien de ce que vous avez saisi n’est perdu : choisissez-en un autre et réservez-le.',
  "Your host's calendar doesn't answer at the moment, so this time can't be promised. Nothing you typed is lost: try again in a few minutes.":
    'L’agenda de votre hôte ne répond pas pour le moment, cet horaire ne peut donc pas être promis. Rien n’est perdu : réessayez dans quelques minutes.',
  'Some of what was entered cannot be used; nothing was changed.':
    'Une partie de la saisie ne peut pas être utilisée ; rien n’a été changé.',
  'Enter your name, so that we know who is coming.': 'Indiquez votre nom, pour que nous sachions qui vient.',
  'Enter your mail address: the invitation goes there.': 'Indiquez votre adresse mail : l’invitation y sera envoyée.',
  'This is not a complete mail address. It should look like name@museum.example.':
    'Ce n’est pas une adresse mail complète. Elle devrait ressembler à nom@musee.example.',
  'This is not a complete phone number. Enter it with its country code, like +44 20 7946 0958.':
    'Ce n’est pas un numéro de téléphone complet. Indiquez-le avec l’indicatif du pays, par exemple +44 20 7946 0958.',
  'Please tick this to go on.': 'Cochez cette case pour continuer.',
  'Please choose an answer.': 'Choisissez une réponse.',
  'Please answer this.': 'Veuillez répondre.',
  'Please enter a number, like 12 or 3.5.': 'Indiquez un nombre, par exemple 12 ou 3,5.',
  'Please say why, so that your host knows.': 'Dites pourquoi, pour que votre hôte le sache.',
  'Enter the address where we meet.': 'Indiquez l’adresse du rendez-vous.',
  "This page doesn't exist, or not any more. Check the address, or ask whoever sent it to you for a new one.":
    'Cette page n’existe pas, ou plus. Vérifiez l’adresse, ou demandez-en une nouvelle.',
  "This link doesn't lead to a booking, or not any more. Use the link in your latest mail about it.":
    'Ce lien ne mène pas, ou plus, à un rendez-vous. Prenez le lien de votre dernier mail.',
  'This time has been taken meanwhile. Choose another of the proposed ones, or wait for your host.':
    'Cet horaire a été pris entre-temps. Choisissez-en un autre parmi ceux proposés, ou attendez votre hôte.',
  'Too many attempts from here within a minute. Nothing is lost: wait a minute, then try again.':
    'Trop d’essais d’ici en une minute. Rien n’est perdu : attendez une minute, puis réessayez.',
  "This can't be booked at the moment. Nothing you typed is lost; write to {} if you need it now.":
    'Ce n’est pas réservable en ce moment. Rien de ce que vous avez saisi n’est perdu ; écrivez à {} si c’est urgent.',
  'Only people of {} can book this. If you are one of them, sign in first, then open this page again.':
    'Seules les personnes de {} peuvent réserver ceci. Si vous en êtes, connectez-vous d’abord, puis rouvrez cette page.',
  "This can't be booked here. Write to {}, and they enter it for you.":
    'Ceci ne se réserve pas ici. Écrivez à {}, qui l’inscrira pour vous.',
  'A name has at most 200 letters.': 'Un nom compte au plus 200 caractères.',
  'A remark has at most 4000 letters.': 'Une remarque compte au plus 4000 caractères.',
  'A reason has at most 1000 letters.': 'Un motif compte au plus 1000 caractères.',
  'An answer has at most {} letters here.': 'Une réponse compte ici au plus {} caractères.',
  'Choose your time zone from the list.': 'Choisissez votre fuseau horaire dans la liste.',
  '“{}” is not a complete mail address.': '« {} » n’est pas une adresse mail complète.',
  "So many guests can't come along; the most is {}.": 'Vous ne pouvez pas amener autant d’invités ; {} au plus.',
  'This location is not offered, or not any more. Choose another one.':
    'Cette façon de se rencontrer n’est pas, ou plus, proposée. Choisissez-en une autre.',
  '“{}” is not among the answers, or not any more. Please choose again.':
    '« {} » n’est pas, ou plus, parmi les réponses. Choisissez de nouveau.',
  'Only one answer is possible here.': 'Une seule réponse est possible ici.',
  "This question can't be answered at the moment. Leave it out, or write to your host.":
    'On ne peut pas répondre à cette question en ce moment. Laissez-la de côté, ou écrivez à votre hôte.',
  'Please choose yes or no.': 'Choisissez oui ou non.',
  'This is not a complete web address. It should look like https://museum.example/plan.':
    'Ce n’est pas une adresse web complète. Elle devrait ressembler à https://museum.example/plan.',
  'Please enter a date, like 2027-03-14.': 'Saisissez une date, comme 2027-03-14.',
  'Please answer this too.': 'Répondez aussi à ceci.',
  'This question was asked too long ago. Here is another one.':
    'Cette question a été posée il y a trop longtemps. En voici une autre.',
  'That is not when it ends. Here is another one.':
    'Ce n’est pas à cette heure qu’il se termine. Voici une autre question.',
  'This is not the code. Look for the latest mail from us; tries left: {}.':
    'Ce n’est pas le code. Cherchez notre dernier mail ; essais restants : {}.',
  'The code was wrong five times, so the hold on this time expired. Book again, and a new code comes by mail.':
    'Le code était faux cinq fois : cet horaire ne vous est plus réservé. Réservez de nouveau, et vous recevrez un nouveau code par mail.',
  'This booking still waits for its code.': 'Cette réservation attend encore son code.',
  'This is requested, and not decided yet.': 'La demande est faite, mais pas encore acceptée.',
  'This is booked already.': 'C’est déjà réservé.',
  'This booking was cancelled. Book a new time instead.': 'Cette réservation a été annulée. Réservez un autre horaire.',
  'This request was declined. Book a new time instead.': 'Cette demande a été refusée. Réservez un autre horaire.',
  'The hold on this time expired, because nobody decided in time. Book a new time instead.':
    'Cet horaire ne vous est plus réservé, car personne n’a décidé à temps. Réservez-en un autre.',
  "This meeting has already begun, so it can't be changed any more.":
    'Ce rendez-vous a déjà commencé et ne peut plus être modifié.',
  "This meeting can't be moved here. Write to your host instead.":
    'Ce rendez-vous ne peut pas être déplacé ici. Écrivez à votre hôte.',
  "This meeting can't be cancelled here. Write to your host instead.":
    'Ce rendez-vous ne peut pas être annulé ici. Écrivez à votre hôte.',
  'It could be moved until it began. Write to your host instead.':
    'Il pouvait être déplacé jusqu’à son début. Écrivez à votre hôte.',
  'It could be moved until {} days before it begins. Write to your host instead.':
    'Il pouvait être déplacé jusqu’à {} jours avant son début. Écrivez à votre hôte.',
  'It could be moved until 1 hour before it begins. Write to your host instead.':
    'Il pouvait être déplacé jusqu’à 1 heure avant son début. Écrivez à votre hôte.',
  'It could be moved until {} hours before it begins. Write to your host instead.':
    'Il pouvait être déplacé jusqu’à {} heures avant son début. Écrivez à votre hôte.',
  'It could be moved until 1 minute before it begins. Write to your host instead.':
    'Il pouvait être déplacé jusqu’à 1 minute avant son début. Écrivez à votre hôte.',
  'It could be moved until {} minutes before it begins. Write to your host instead.':
    'Il pouvait être déplacé jusqu’à {} minutes avant son début. Écrivez à votre hôte.',
  'It could be cancelled until it began. Write to your host instead.':
    'Il pouvait être annulé jusqu’à son début. Écrivez à votre hôte.',
  'It could be cancelled until {} days before it begins. Write to your host instead.':
    'Il pouvait être annulé jusqu’à {} jours avant son début. Écrivez à votre hôte.',
  'It could be cancelled until 1 hour before it begins. Write to your host instead.':
    'Il pouvait être annulé jusqu’à 1 heure avant son début. Écrivez à votre hôte.',
  'It could be cancelled until {} hours before it begins. Write to your host instead.':
    'Il pouvait être annulé jusqu’à {} heures avant son début. Écrivez à votre hôte.',
  'It could be cancelled until 1 minute before it begins. Write to your host instead.':
    'Il pouvait être annulé jusqu’à 1 minute avant son début. Écrivez à votre hôte.',
  'It could be cancelled until {} minutes before it begins. Write to your host instead.':
    'Il pouvait être annulé jusqu’à {} minutes avant son début. Écrivez à votre hôte.',
  'You can confirm from 48 hours before it begins.': 'Vous pouvez confirmer à partir de 48 heures avant le début.',
  'This time is not proposed any more. Choose one of the others.':
    'Cet horaire n’est plus proposé. Choisissez-en un autre.',
  "This link doesn't lead to an offer, or not any more. Use the link in your latest mail about it.":
    'Ce lien ne mène pas, ou plus, à une offre. Prenez celui de votre dernier mail à ce sujet.',
  'One of these times has been taken already. The link in the mail about that booking leads to it.':
    'L’un de ces horaires est déjà pris. Le lien dans le mail de cette réservation y mène.',
  'This offer was withdrawn. Write to {} for other times.':
    'Cette offre a été retirée. Écrivez à {} pour d’autres horaires.',
  'This offer has expired. Write to {} for other times.': 'Cette offre a expiré. Écrivez à {} pour d’autres horaires.',
  'Nobody asks for a file here. Load the page again.': 'Aucun fichier n’est demandé ici. Rechargez la page.',
  'Too many files are being sent at the moment. Nothing is lost: try again in an hour, or book without the file.':
    'Trop de fichiers sont envoyés en ce moment. Rien n’est perdu : réessayez dans une heure, ou réservez sans le fichier.',
  'This file is not here any more. Choose it again.': 'Ce fichier n’est plus ici. Choisissez-le de nouveau.',
  'This file is empty. Choose another one.': 'Ce fichier est vide. Choisissez-en un autre.',
  'A file has at most 4 MB here. Send a smaller one, or a link to it.':
    'Un fichier fait ici au plus 4 Mo. Envoyez-en un plus petit, ou un lien.',
  "This file can't be taken: it has to be a {}, and its name has to say so.":
    'Ce fichier ne peut pas être accepté : PDF, PNG, JPEG ou texte simple, et son nom doit le dire.',
  'Something went wrong here, and nothing was changed. Try again; if it stays like this, tell whoever runs this installation.':
    'Quelque chose s’est mal passé, et rien n’a changé. Réessayez ; si cela persiste, dites-le à ceux qui gèrent ce site.',
  'That is more text than can be taken. Shorten it and send it again.':
    'C’est plus de texte qu’on ne peut en prendre. Raccourcissez-le et renvoyez.',
  'The request was given up before it was done. Send it again.':
    'La demande a été abandonnée avant la fin. Renvoyez-la.',
  'This page is not published yet. Ask {} when it will be.':
    'Cette page n’est pas encore publiée. Demandez à {} quand elle le sera.',
  'At most {} of these meetings can be booked ahead with one mail address. Move or cancel one of yours instead. If you need more, write to {}.':
    'Avec une même adresse mail, on peut réserver d’avance {} de ces rendez-vous au plus. Déplacez ou annulez plutôt l’un des vôtres. S’il vous en faut davantage, écrivez à {}.',
  'With this mail address, many meetings were booked within an hour. Nothing you typed is lost: try again later. If you need more, write to {}.':
    'Avec cette adresse mail, beaucoup de rendez-vous ont été pris en une heure. Rien de ce que vous avez saisi n’est perdu : réessayez plus tard. S’il vous en faut davantage, écrivez à {}.',
  '{} was invited many times today. Leave this guest out, or tell them yourself.':
    '{} a déjà été invité de nombreuses fois aujourd’hui. Retirez cet invité, ou prévenez-le vous-même.',
  'Very many meetings of this kind were booked today, so no more are taken for now. Nothing you typed is lost: try again tomorrow. If you need more, write to {}.':
    'Un très grand nombre de ces rendez-vous ont été pris aujourd’hui ; on n’en accepte plus pour le moment. Rien de ce que vous avez saisi n’est perdu : réessayez demain. S’il vous en faut davantage, écrivez à {}.',
  'Three codes were sent for this booking. Look for them among unwanted mail too, or withdraw it and book again.':
    'Trois codes ont déjà été envoyés pour cette réservation. Regardez aussi dans les indésirables, ou retirez la demande et réservez de nouveau.',
  'You have sent too many files without booking. Nothing is lost: book with those there are, or try again tomorrow.':
    'Vous avez envoyé trop de fichiers sans réserver. Rien n’est perdu : réservez avec ceux qui sont là, ou réessayez demain.',
}
