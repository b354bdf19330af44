/** What the server may answer, by its English words; {} stands for what differs. */
export const answers: Record<string, string> = {
  'This time has just been taken. Nothing you typed is lost: choose another time and book it.':
    'Deze tijd is net bezet. Niets van wat u invulde is verloren: kies een andere tijd en boek die.',
  'This time has already gone by. Nothing you typed is lost: choose another time and book it.':
    'Deze tijd is al voorbij. Niets van wat u invulde is verloren: kies een andere tijd en boek die.',
  "Your host's calendar doesn't answer at the moment, so this time can't be promised. Nothing you typed is lost: try again in a few minutes.":
    'De agenda aan de andere kant antwoordt nu niet, dus deze tijd kan niet worden beloofd. Niets is verloren: probeer het over een paar minuten opnieuw.',
  'Some of what was entered cannot be used; nothing was changed.':
    'Een deel van wat is ingevuld kan niet worden gebruikt; er is niets veranderd.',
  'Enter your name, so that we know who is coming.': 'Vul uw naam in, zodat wij weten wie er komt.',
  'Enter your mail address: the invitation goes there.': 'Vul uw e-mailadres in: de uitnodiging gaat daarheen.',
  'This is not a complete mail address. It should look like name@museum.example.':
    'Dit is geen volledig e-mailadres. Het hoort eruit te zien als naam@museum.example.',
  'This is not a complete phone number. Enter it with its country code, like +44 20 7946 0958.':
    'Dit is geen volledig telefoonnummer. Vul het in met de landcode, zoals +44 20 7946 0958.',
  'Please tick this to go on.': 'Vink dit aan om verder te gaan.',
  'Please choose an answer.': 'Kies een antwoord.',
  'Please answer this.': 'Beantwoord dit alstublieft.',
  'Please enter a number, like 12 or 3.5.': 'Vul een getal in, zoals 12 of 3,5.',
  'Please say why, so that your host knows.': 'Zeg waarom, zodat uw gastheer het weet.',
  'Enter the address where we meet.': 'Vul het adres in waar wij elkaar ontmoeten.',
  "This page doesn't exist, or not any more. Check the address, or ask whoever sent it to you for a new one.":
    'Deze pagina bestaat niet, of niet meer. Controleer het adres, of vraag om een nieuw.',
  "This link doesn't lead to a booking, or not any more. Use the link in your latest mail about it.":
    'Deze link leidt niet, of niet meer, naar een afspraak. Gebruik de link in uw laatste e-mail erover.',
  'This time has been taken meanwhile. Choose another of the proposed ones, or wait for your host.':
    'Deze tijd is intussen bezet. Kies een andere van de voorgestelde tijden, of wacht op bericht.',
  'Too many attempts from here within a minute. Nothing is lost: wait a minute, then try again.':
    'Te veel pogingen vanaf hier binnen een minuut. Niets is verloren: wacht een minuut en probeer het dan opnieuw.',
  "This can't be booked at the moment. Nothing you typed is lost; write to {} if you need it now.":
    'Dit kan nu niet worden geboekt. Niets van wat u hebt ingevuld is verloren; schrijf naar {} als het haast heeft.',
  'Only people of {} can book this. If you are one of them, sign in first, then open this page again.':
    'Alleen mensen van {} kunnen dit boeken. Hoort u daarbij, meld u dan eerst aan en open deze pagina opnieuw.',
  "This can't be booked here. Write to {}, and they enter it for you.":
    'Dit kan hier niet worden geboekt. Schrijf naar {}, dan wordt het voor u ingevoerd.',
  'A name has at most 200 letters.': 'Een naam heeft hoogstens 200 tekens.',
  'A remark has at most 4000 letters.': 'Een opmerking heeft hoogstens 4000 tekens.',
  'A reason has at most 1000 letters.': 'Een reden heeft hoogstens 1000 tekens.',
  'An answer has at most {} letters here.': 'Een antwoord heeft hier hoogstens {} tekens.',
  'Choose your time zone from the list.': 'Kies uw tijdzone uit de lijst.',
  '“{}” is not a complete mail address.': '“{}” is geen volledig e-mailadres.',
  "So many guests can't come along; the most is {}.": 'Zoveel gasten kunnen niet meekomen; hoogstens {}.',
  'This location is not offered, or not any more. Choose another one.':
    'Deze manier van afspreken wordt niet of niet meer aangeboden. Kies een andere.',
  '“{}” is not among the answers, or not any more. Please choose again.':
    '“{}” is niet of niet meer een van de antwoorden. Kies opnieuw.',
  'Only one answer is possible here.': 'Hier is maar één antwoord mogelijk.',
  "This question can't be answered at the moment. Leave it out, or write to your host.":
    'Deze vraag kan nu niet worden beantwoord. Sla haar over, of schrijf naar uw gastheer.',
  'Please choose yes or no.': 'Kies ja of nee.',
  'This is not a complete web address. It should look like https://museum.example/plan.':
    'Dit is geen volledig webadres. Het moet eruitzien als https://museum.example/plan.',
  'Please enter a date, like 2027-03-14.': 'Voer een datum in, zoals 2027-03-14.',
  'Please answer this too.': 'Beantwoord ook dit.',
  'This question was asked too long ago. Here is another one.':
    'Deze vraag is te lang geleden gesteld. Hier is een andere.',
  'That is not when it ends. Here is another one.': 'Dat is niet het juiste einde. Hier is een andere vraag.',
  'This is not the code. Look for the latest mail from us; tries left: {}.':
    'Dit is niet de code. Kijk in onze laatste e-mail; resterende pogingen: {}.',
  'The code was wrong five times, so the hold on this time expired. Book again, and a new code comes by mail.':
    'De code was vijf keer fout, daarom is de reservering verlopen. Boek opnieuw, dan krijgt u een nieuwe code per e-mail.',
  'This booking still waits for its code.': 'Deze boeking wacht nog op de code.',
  'This is requested, and not decided yet.': 'Dit is aangevraagd en nog niet beslist.',
  'This is booked already.': 'Dit is al geboekt.',
  'This booking was cancelled. Book a new time instead.': 'Deze boeking is afgezegd. Boek een nieuwe tijd.',
  'This request was declined. Book a new time instead.': 'Deze aanvraag is afgewezen. Boek een nieuwe tijd.',
  'The hold on this time expired, because nobody decided in time. Book a new time instead.':
    'De reservering is verlopen, omdat niemand op tijd besliste. Boek een nieuwe tijd.',
  "This meeting has already begun, so it can't be changed any more.":
    'Deze afspraak is al begonnen en kan niet meer worden gewijzigd.',
  "This meeting can't be moved here. Write to your host instead.":
    'Deze afspraak kan hier niet worden verzet. Schrijf naar uw gastheer.',
  "This meeting can't be cancelled here. Write to your host instead.":
    'Deze afspraak kan hier niet worden afgezegd. Schrijf naar uw gastheer.',
  'It could be moved until it began. Write to your host instead.':
    'Tot het begin kon hij worden verzet. Schrijf naar uw gastheer.',
  'It could be moved until {} days before it begins. Write to your host instead.':
    'Tot {} dagen voor het begin kon hij worden verzet. Schrijf naar uw gastheer.',
  'It could be moved until 1 hour before it begins. Write to your host instead.':
    'Tot 1 uur voor het begin kon hij worden verzet. Schrijf naar uw gastheer.',
  'It could be moved until {} hours before it begins. Write to your host instead.':
    'Tot {} uur voor het begin kon hij worden verzet. Schrijf naar uw gastheer.',
  'It could be moved until 1 minute before it begins. Write to your host instead.':
    'Tot 1 minuut voor het begin kon hij worden verzet. Schrijf naar uw gastheer.',
  'It could be moved until {} minutes before it begins. Write to your host instead.':
    'Tot {} minuten voor het begin kon hij worden verzet. Schrijf naar uw gastheer.',
  'It could be cancelled until it began. Write to your host instead.':
    'Tot het begin kon hij worden afgezegd. Schrijf naar uw gastheer.',
  'It could be cancelled until {} days before it begins. Write to your host instead.':
    'Tot {} dagen voor het begin kon hij worden afgezegd. Schrijf naar uw gastheer.',
  'It could be cancelled until 1 hour before it begins. Write to your host instead.':
    'Tot 1 uur voor het begin kon hij worden afgezegd. Schrijf naar uw gastheer.',
  'It could be cancelled until {} hours before it begins. Write to your host instead.':
    'Tot {} uur voor het begin kon hij worden afgezegd. Schrijf naar uw gastheer.',
  'It could be cancelled until 1 minute before it begins. Write to your host instead.':
    'Tot 1 minuut voor het begin kon hij worden afgezegd. Schrijf naar uw gastheer.',
  'It could be cancelled until {} minutes before it begins. Write to your host instead.':
    'Tot {} minuten voor het begin kon hij worden afgezegd. Schrijf naar uw gastheer.',
  'You can confirm from 48 hours before it begins.': 'Bevestigen kan vanaf 48 uur voor het begin.',
  'This time is not proposed any more. Choose one of the others.':
    'Deze tijd wordt niet meer voorgesteld. Kies een van de andere.',
  "This link doesn't lead to an offer, or not any more. Use the link in your latest mail about it.":
    'Deze link leidt niet of niet meer naar een aanbod. Gebruik de link in uw laatste e-mail hierover.',
  'One of these times has been taken already. The link in the mail about that booking leads to it.':
    'Een van deze tijden is al bezet. De link in de e-mail over die boeking leidt ernaartoe.',
  'This offer was withdrawn. Write to {} for other times.':
    'Dit aanbod is ingetrokken. Schrijf naar {} voor andere tijden.',
  'This offer has expired. Write to {} for other times.': 'Dit aanbod is verlopen. Schrijf naar {} voor andere tijden.',
  'Nobody asks for a file here. Load the page again.': 'Hier wordt geen bestand gevraagd. Laad de pagina opnieuw.',
  'Too many files are being sent at the moment. Nothing is lost: try again in an hour, or book without the file.':
    'Er worden nu te veel bestanden gestuurd. Niets is verloren: probeer het over een uur opnieuw, of boek zonder het bestand.',
  'This file is not here any more. Choose it again.': 'Dit bestand is er niet meer. Kies het opnieuw.',
  'This file is empty. Choose another one.': 'Dit bestand is leeg. Kies een ander.',
  'A file has at most 4 MB here. Send a smaller one, or a link to it.':
    'Een bestand heeft hier hoogstens 4 MB. Stuur een kleiner bestand of een link.',
  "This file can't be taken: it has to be a {}, and its name has to say so.":
    'Dit bestand kan niet worden aangenomen: PDF, PNG, JPEG of platte tekst, en de naam moet dat zeggen.',
  'Something went wrong here, and nothing was changed. Try again; if it stays like this, tell whoever runs this installation.':
    'Hier ging iets mis, en er is niets gewijzigd. Probeer het opnieuw; blijft het zo, meld het dan bij wie deze pagina beheert.',
  'That is more text than can be taken. Shorten it and send it again.':
    'Dat is meer tekst dan kan worden aangenomen. Maak hem korter en stuur opnieuw.',
  'The request was given up before it was done. Send it again.':
    'De aanvraag is afgebroken voordat ze klaar was. Stuur haar opnieuw.',
  'This page is not published yet. Ask {} when it will be.':
    'Deze pagina is nog niet gepubliceerd. Vraag {} wanneer dat gebeurt.',
  'At most {} of these meetings can be booked ahead with one mail address. Move or cancel one of yours instead. If you need more, write to {}.':
    'Met één e-mailadres kunnen hoogstens {} van deze afspraken vooruit worden geboekt. Verzet of annuleer liever een van uw afspraken. Hebt u er meer nodig, schrijf dan naar {}.',
  'With this mail address, many meetings were booked within an hour. Nothing you typed is lost: try again later. If you need more, write to {}.':
    'Met dit e-mailadres zijn binnen een uur veel afspraken geboekt. Niets van wat u invulde is verloren: probeer het later opnieuw. Hebt u er meer nodig, schrijf dan naar {}.',
  '{} was invited many times today. Leave this guest out, or tell them yourself.':
    '{} is vandaag al vaak uitgenodigd. Laat deze gast weg, of laat het zelf weten.',
  'Very many meetings of this kind were booked today, so no more are taken for now. Nothing you typed is lost: try again tomorrow. If you need more, write to {}.':
    'Vandaag zijn er heel veel van deze afspraken geboekt; voorlopig kunnen er geen bij. Niets van wat u invulde is verloren: probeer het morgen opnieuw. Hebt u er meer nodig, schrijf dan naar {}.',
  'Three codes were sent for this booking. Look for them among unwanted mail too, or withdraw it and book again.':
    'Voor deze boeking zijn al drie codes verstuurd. Kijk ook bij de ongewenste mail, of trek de aanvraag in en boek opnieuw.',
  'You have sent too many files without booking. Nothing is lost: book with those there are, or try again tomorrow.':
    'U hebt te veel bestanden verstuurd zonder te boeken. Niets is verloren: boek met de bestanden die er zijn, of probeer het morgen opnieuw.',
}
