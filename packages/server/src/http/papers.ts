import type { Response } from 'express';

/** A paper to look at or to print; nothing in it may run. */
export const sendPdf = (res: Response, name: string, pdf: Buffer): void =>
  void res
    .set({ 'content-security-policy': "default-src 'none'; sandbox", 'content-disposition': `inline; filename="${name}.pdf"` })
    .type('application/pdf')
    .send(pdf);
