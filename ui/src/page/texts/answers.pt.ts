/** What the server may answer, by its English words; {} stands for what differs. */
export const answers: Record<string, string> = {
  'This time has just been taken. Nothing you typed is lost: choose another time and book it.':
    'Esta hora acabou de ser ocupada. Nada do que escreveu se perdeu: escolha outra hora e marque-a.',
  'This time has already gone by. Nothing you typed is lost: choose another time and book it.':
    'Esta hora já passou. Nada do que escreveu se perdeu: escolha outra hora e marque-a.',
  "Your host's calendar doesn't answer at the moment, so this time can't be promised. Nothing you typed is lost: try again in a few minutes.":
    'A agenda do outro lado não responde neste momento, por isso esta hora não pode ser prometida. Nada se perdeu: tente de novo dentro de alguns minutos.',
  'Some of what was entered cannot be used; nothing was changed.':
    'Parte do que foi escrito não pode ser usada; nada foi alterado.',
  'Enter your name, so that we know who is coming.': 'Escreva o seu nome, para sabermos quem vem.',
  'Enter your mail address: the invitation goes there.': 'Escreva o seu endereço de e-mail: o convite vai para lá.',
  'This is not a complete mail address. It should look like name@museum.example.':
    'Este não é um endereço de e-mail completo. Deve ser como nome@museu.example.',
  'This is not a complete phone number. Enter it with its country code, like +44 20 7946 0958.':
    'Este não é um número de telefone completo. Escreva-o com o indicativo do país, como +44 20 7946 0958.',
  'Please tick this to go on.': 'Assinale isto para continuar.',
  'Please choose an answer.': 'Escolha uma resposta.',
  'Please answer this.': 'Responda, por favor.',
  'Please enter a number, like 12 or 3.5.': 'Escreva um número, como 12 ou 3,5.',
  'Please say why, so that your host knows.': 'Diga porquê, para que o saibam do outro lado.',
  'Enter the address where we meet.': 'Escreva a morada onde nos encontramos.',
  "This page doesn't exist, or not any more. Check the address, or ask whoever sent it to you for a new one.":
    'Esta página não existe, ou já não existe. Verifique o endereço, ou peça um novo.',
  "This link doesn't lead to a booking, or not any more. Use the link in your latest mail about it.":
    'Esta ligação não leva, ou já não leva, a uma marcação. Use a ligação do seu último e-mail.',
  'This time has been taken meanwhile. Choose another of the proposed ones, or wait for your host.':
    'Esta hora foi entretanto ocupada. Escolha outra das propostas, ou espere por notícias.',
  'Too many attempts from here within a minute. Nothing is lost: wait a minute, then try again.':
    'Demasiadas tentativas daqui num minuto. Nada se perdeu: espere um minuto e tente de novo.',
  "This can't be booked at the moment. Nothing you typed is lost; write to {} if you need it now.":
    'Isto não pode ser marcado de momento. Nada do que escreveu se perdeu; escreva a {} se for urgente.',
  'Only people of {} can book this. If you are one of them, sign in first, then open this page again.':
    'Só as pessoas de {} podem marcar isto. Se é uma delas, inicie sessão primeiro e depois abra esta página de novo.',
  "This can't be booked here. Write to {}, and they enter it for you.":
    'Isto não pode ser marcado aqui. Escreva a {}, que o regista por si.',
  'A name has at most 200 letters.': 'Um nome tem no máximo 200 caracteres.',
  'A remark has at most 4000 letters.': 'Uma observação tem no máximo 4000 caracteres.',
  'A reason has at most 1000 letters.': 'Um motivo tem no máximo 1000 caracteres.',
  'An answer has at most {} letters here.': 'Uma resposta tem aqui no máximo {} caracteres.',
  'Choose your time zone from the list.': 'Escolha o seu fuso horário na lista.',
  '“{}” is not a complete mail address.': '“{}” não é um endereço de e-mail completo.',
  "So many guests can't come along; the most is {}.": 'Não pode trazer tantos convidados; no máximo {}.',
  'This location is not offered, or not any more. Choose another one.':
    'Esta forma de reunir não está, ou já não está, disponível. Escolha outra.',
  '“{}” is not among the answers, or not any more. Please choose again.':
    '“{}” não está, ou já não está, entre as respostas. Escolha de novo.',
  'Only one answer is possible here.': 'Aqui só é possível uma resposta.',
  "This question can't be answered at the moment. Leave it out, or write to your host.":
    'Esta pergunta não pode ser respondida de momento. Deixe-a em branco, ou escreva ao seu anfitrião.',
  'Please choose yes or no.': 'Escolha sim ou não.',
  'This is not a complete web address. It should look like https://museum.example/plan.':
    'Isto não é um endereço web completo. Deve ser como https://museum.example/plan.',
  'Please enter a date, like 2027-03-14.': 'Introduza uma data, como 2027-03-14.',
  'Please answer this too.': 'Responda também a isto.',
  'This question was asked too long ago. Here is another one.':
    'Esta pergunta foi feita há demasiado tempo. Aqui está outra.',
  'That is not when it ends. Here is another one.': 'Não é a essa hora que termina. Aqui está outra pergunta.',
  'This is not the code. Look for the latest mail from us; tries left: {}.':
    'Este não é o código. Procure o nosso último e-mail; tentativas restantes: {}.',
  'The code was wrong five times, so the hold on this time expired. Book again, and a new code comes by mail.':
    'O código esteve errado cinco vezes, por isso a reserva desta hora expirou. Marque de novo e receberá um novo código por e-mail.',
  'This booking still waits for its code.': 'Esta marcação ainda espera pelo código.',
  'This is requested, and not decided yet.': 'Isto foi pedido e ainda não está decidido.',
  'This is booked already.': 'Isto já está marcado.',
  'This booking was cancelled. Book a new time instead.': 'Esta marcação foi cancelada. Marque outra hora.',
  'This request was declined. Book a new time instead.': 'Este pedido foi recusado. Marque outra hora.',
  'The hold on this time expired, because nobody decided in time. Book a new time instead.':
    'A reserva desta hora expirou, porque ninguém decidiu a tempo. Marque outra hora.',
  "This meeting has already begun, so it can't be changed any more.":
    'Esta reunião já começou e não pode ser alterada.',
  "This meeting can't be moved here. Write to your host instead.":
    'Esta reunião não pode ser mudada aqui. Escreva ao seu anfitrião.',
  "This meeting can't be cancelled here. Write to your host instead.":
    'Esta reunião não pode ser cancelada aqui. Escreva ao seu anfitrião.',
  'It could be moved until it began. Write to your host instead.':
    'Podia ser mudada até começar. Escreva ao seu anfitrião.',
  'It could be moved until {} days before it begins. Write to your host instead.':
    'Podia ser mudada até {} dias antes de começar. Escreva ao seu anfitrião.',
  'It could be moved until 1 hour before it begins. Write to your host instead.':
    'Podia ser mudada até 1 hora antes de começar. Escreva ao seu anfitrião.',
  'It could be moved until {} hours before it begins. Write to your host instead.':
    'Podia ser mudada até {} horas antes de começar. Escreva ao seu anfitrião.',
  'It could be moved until 1 minute before it begins. Write to your host instead.':
    'Podia ser mudada até 1 minuto antes de começar. Escreva ao seu anfitrião.',
  'It could be moved until {} minutes before it begins. Write to your host instead.':
    'Podia ser mudada até {} minutos antes de começar. Escreva ao seu anfitrião.',
  'It could be cancelled until it began. Write to your host instead.':
    'Podia ser cancelada até começar. Escreva ao seu anfitrião.',
  'It could be cancelled until {} days before it begins. Write to your host instead.':
    'Podia ser cancelada até {} dias antes de começar. Escreva ao seu anfitrião.',
  'It could be cancelled until 1 hour before it begins. Write to your host instead.':
    'Podia ser cancelada até 1 hora antes de começar. Escreva ao seu anfitrião.',
  'It could be cancelled until {} hours before it begins. Write to your host instead.':
    'Podia ser cancelada até {} horas antes de começar. Escreva ao seu anfitrião.',
  'It could be cancelled until 1 minute before it begins. Write to your host instead.':
    'Podia ser cancelada até 1 minuto antes de começar. Escreva ao seu anfitrião.',
  'It could be cancelled until {} minutes before it begins. Write to your host instead.':
    'Podia ser cancelada até {} minutos antes de começar. Escreva ao seu anfitrião.',
  'You can confirm from 48 hours before it begins.': 'Pode confirmar a partir de 48 horas antes de começar.',
  'This time is not proposed any more. Choose one of the others.':
    'Esta hora já não é proposta. Escolha uma das outras.',
  "This link doesn't lead to an offer, or not any more. Use the link in your latest mail about it.":
    'Esta ligação não leva, ou já não leva, a uma proposta. Use a do seu último e-mail sobre ela.',
  'One of these times has been taken already. The link in the mail about that booking leads to it.':
    'Uma destas horas já foi ocupada. A ligação no e-mail dessa marcação leva até ela.',
  'This offer was withdrawn. Write to {} for other times.':
    'Esta proposta foi retirada. Escreva a {} para outras horas.',
  'This offer has expired. Write to {} for other times.': 'Esta proposta expirou. Escreva a {} para outras horas.',
  'Nobody asks for a file here. Load the page again.': 'Aqui não se pede nenhum ficheiro. Carregue a página de novo.',
  'Too many files are being sent at the moment. Nothing is lost: try again in an hour, or book without the file.':
    'Estão a ser enviados demasiados ficheiros. Nada se perdeu: tente daqui a uma hora, ou marque sem o ficheiro.',
  'This file is not here any more. Choose it again.': 'Este ficheiro já não está aqui. Escolha-o de novo.',
  'This file is empty. Choose another one.': 'Este ficheiro está vazio. Escolha outro.',
  'A file has at most 4 MB here. Send a smaller one, or a link to it.':
    'Um ficheiro tem aqui no máximo 4 MB. Envie um mais pequeno, ou uma ligação.',
  "This file can't be taken: it has to be a {}, and its name has to say so.":
    'Este ficheiro não pode ser aceite: PDF, PNG, JPEG ou texto simples, e o nome tem de o dizer.',
  'Something went wrong here, and nothing was changed. Try again; if it stays like this, tell whoever runs this installation.':
    'Algo correu mal aqui, e nada foi alterado. Tente de novo; se continuar, avise quem gere esta página.',
  'That is more text than can be taken. Shorten it and send it again.':
    'É mais texto do que pode ser aceite. Encurte-o e envie de novo.',
  'The request was given up before it was done. Send it again.':
    'O pedido foi abandonado antes de terminar. Envie-o de novo.',
  'This page is not published yet. Ask {} when it will be.':
    'Esta página ainda não está publicada. Pergunte a {} quando estará.',
  'At most {} of these meetings can be booked ahead with one mail address. Move or cancel one of yours instead. If you need more, write to {}.':
    'Com um endereço de e-mail podem marcar-se no máximo {} destas reuniões com antecedência. Mude ou cancele antes uma das suas. Se precisar de mais, escreva a {}.',
  'With this mail address, many meetings were booked within an hour. Nothing you typed is lost: try again later. If you need more, write to {}.':
    'Com este endereço de e-mail foram marcadas muitas reuniões numa hora. Nada do que escreveu se perdeu: tente mais tarde. Se precisar de mais, escreva a {}.',
  '{} was invited many times today. Leave this guest out, or tell them yourself.':
    '{} já recebeu hoje muitos convites. Retire este convidado, ou avise-o você mesmo.',
  'Very many meetings of this kind were booked today, so no more are taken for now. Nothing you typed is lost: try again tomorrow. If you need more, write to {}.':
    'Hoje foram marcadas muitas destas reuniões, por isso de momento não se aceitam mais. Nada do que escreveu se perdeu: tente amanhã. Se precisar de mais, escreva a {}.',
  'Three codes were sent for this booking. Look for them among unwanted mail too, or withdraw it and book again.':
    'Já foram enviados três códigos para esta marcação. Veja também no correio não solicitado, ou retire o pedido e marque de novo.',
  'You have sent too many files without booking. Nothing is lost: book with those there are, or try again tomorrow.':
    'Enviou demasiados ficheiros sem marcar. Nada se perdeu: marque com os que já enviou, ou tente amanhã.',
}
