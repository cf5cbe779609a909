import puppeteer from 'puppeteer-core';
const url='http://127.0.0.1:4500';
const b=await puppeteer.launch({executablePath:'/usr/bin/chromium',args:['--no-sandbox','--use-angle=swiftshader','--enable-unsafe-swiftshader'],defaultViewport:{width:1280,height:800}});
const p=await b.newPage(); p.on('console',m=>{if(m.type()==='error')console.log('ERR',m.text())}); p.on('pageerror',e=>console.log('PAGEERR',e.message));
const w=ms=>new Promise(r=>setTimeout(r,ms));
await p.goto(url+'/job/dome-night/draft');await w(2500);
await p.locator('::-p-aria(bird part)').click(); await w(1500);
await p.locator('::-p-aria(Show the widths)').click(); await w(2500);
await p.evaluate(()=>{const h=[...document.querySelectorAll('h3')].find(x=>x.textContent.startsWith('Width of'));h.scrollIntoView({block:'center'});});
await w(500);
await p.screenshot({path:'/tmp/s1.png'});
// line particulars with craft tools
const el=await p.$('[data-part] [data-line]'); 
await p.evaluate(()=>{const n=[...document.querySelectorAll('[data-line]')].slice(-9)[0];n.dispatchEvent(new PointerEvent('pointerdown',{bubbles:true,button:0}));});
await w(1500);
await p.evaluate(()=>{const h=[...document.querySelectorAll('h3')].find(x=>x.textContent.startsWith('On a side'));h&&h.scrollIntoView({block:'center'});});
await w(400);
await p.screenshot({path:'/tmp/s2.png'});
await b.close();
